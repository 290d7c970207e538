import type { Mark, MarkShape } from './markSchema.ts';

export interface SubjectOfMark {
  /** Subjects as they were found, without slack and shadow. */
  outline: Mark;
  /** What was drawn beside them, that may hold ground as well as more of the subject. */
  loose: Mark | undefined;
}

/** What a mark knows of its subject by itself: undefined where none was found, and where it is turned over or a band. */
export function subjectOfMark(mark: Mark): SubjectOfMark | undefined {
  const shapes = mark.shapes.filter((shape) => foundAs(shape) !== 'shadow');
  const isSubject = (shape: MarkShape): boolean => foundAs(shape) === 'subject' && !takesAway(shape);
  if (mark.inverted || mark.bandPx || !shapes.some(isSubject)) return undefined;
  const outline = shapes.filter((shape) => isSubject(shape) || takesAway(shape));
  const loose = shapes.filter((shape) => !isSubject(shape));
  return {
    outline: { shapes: outline, growPx: 0, smoothPx: 0, featherPx: 0 },
    loose: loose.every(takesAway) ? undefined : { ...mark, shapes: loose },
  };
}

/** The shadows that were found and added to a mark. */
export const foundShadows = (mark: Mark): MarkShape[] =>
  mark.shapes.filter((shape) => foundAs(shape) === 'shadow' && !takesAway(shape));

/**
 * Where a mark may hold its subject's shadow: once a shadow was found, not in the slack around what was found to be a
 * subject, where another's may pass; else anywhere.
 */
export function shadowOfMark(mark: Mark): Mark {
  if (mark.inverted || mark.bandPx || foundShadows(mark).length === 0) return mark;
  return { ...mark, shapes: mark.shapes.filter((shape) => foundAs(shape) !== 'subject' || takesAway(shape)) };
}

const foundAs = (shape: MarkShape): 'subject' | 'shadow' | undefined =>
  shape.kind === 'raster' ? shape.found : undefined;

const takesAway = ({ combine }: MarkShape): boolean => combine === 'without' || combine === 'onlyBoth';
