import type { Mark } from './markSchema.ts';

/**
 * The subject's own outline, where all that a mark adds together was found to be one, or its shadow: what was drawn
 * loosely may hold ground as well, and a mark turned over or reduced to a band is no subject.
 */
export function subjectOfMark({ shapes, inverted, bandPx, ...mark }: Mark): Mark | undefined {
  if (inverted || bandPx) return undefined;
  const own = shapes.filter((shape) => shape.kind !== 'raster' || shape.found !== 'shadow');
  const isKnown = own.every(
    (shape) => shape.combine === 'without' || shape.combine === 'onlyBoth' || (shape.kind === 'raster' && shape.found),
  );
  return isKnown && own.length > 0 ? { ...mark, shapes: own, growPx: 0, smoothPx: 0, featherPx: 0 } : undefined;
}
