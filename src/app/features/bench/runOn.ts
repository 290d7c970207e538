import { linePath } from '../../../core/lines/runOnLine.ts';
import type { Rect } from '../../../core/image/rect.ts';
import type { Draft } from '../../../operations/draft.ts';
import { MOST_LINES, MOST_POINTS, type RunOnParams } from '../../../operations/rebuild/rebuildSchema.ts';
import { takeId, type DeskView } from '../../desk/deskView.ts';
import type { Point } from './photo/viewport.ts';

/** The lines to be shown: those set by hand, else those that were found. */
export function linesInSight(draft: Draft, { sketch, reports }: Pick<DeskView, 'sketch' | 'reports'>): RunOnParams[] {
  if (draft.runOn) return draft.runOn;
  if (sketch) return sketch.lines;
  const report = (draft.chosen && reports.get(takeId(draft.chosen))) ?? [...reports.values()][0];
  return report?.lines ?? [];
}

/** A place of a line that can be taken hold of: a point, or halfway to the next, where taking hold sets another one. */
export interface LineHandle {
  line: number;
  point: number;
  isNew: boolean;
}

/** The handles of a line, with where they lie; those between points only where more points may be set. */
export function handlesOf({ points }: RunOnParams, line: number): (LineHandle & { at: Point })[] {
  const set = points.map((at, point) => ({ line, point, isNew: false, at }));
  if (points.length >= MOST_POINTS) return set;
  const between = points.slice(1).map((_, k) => ({ line, point: k + 1, isNew: true, at: halfway(points, k) }));
  return [...set, ...between];
}

/** Halfway along the curve from one point to the next. */
function halfway(points: readonly Point[], from: number): Point {
  const path = linePath(points, 1);
  const nearest = (p: Point): number => {
    let best = 0;
    for (const [k, q] of path.entries()) {
      if (Math.hypot(q.x - p.x, q.y - p.y) < Math.hypot(path[best]!.x - p.x, path[best]!.y - p.y)) best = k;
    }
    return best;
  };
  return path[Math.round((nearest(points[from]!) + nearest(points[from + 1]!)) / 2)]!;
}

/** The lines with a handle moved. */
export function withHandle(lines: readonly RunOnParams[], handle: LineHandle, at: Point): RunOnParams[] {
  return withLine(lines, handle.line, (line) => ({
    ...line,
    points: line.points.toSpliced(handle.point, handle.isNew ? 0 : 1, at),
  }));
}

export const withLine = (
  lines: readonly RunOnParams[],
  index: number,
  change: (line: RunOnParams) => RunOnParams,
): RunOnParams[] => lines.map((line, k) => (k === index ? change(line) : line));

/** The lines with one more; the surest of those that were found make room. */
export const withNew = (lines: readonly RunOnParams[], line: RunOnParams): RunOnParams[] => [
  ...lines.slice(0, MOST_LINES - 1),
  line,
];

/** A line to begin with: level, through the middle of the mark and somewhat beyond it. */
export const lineOverMark = ({ x, y, width, height }: Rect): RunOnParams => ({
  points: [
    { x: x - 0.05 * width, y: y + 0.5 * height },
    { x: x + 1.05 * width, y: y + 0.5 * height },
  ],
  widthsPx: [0, 0],
  on: true,
});

/** As wide as that in the mean, at both ends in proportion. */
export function widened(line: RunOnParams, widthPx: number): RunOnParams {
  const [first, last] = line.widthsPx;
  const mean = (first + last) / 2;
  return { ...line, widthsPx: mean > 0 ? [(first * widthPx) / mean, (last * widthPx) / mean] : [widthPx, widthPx] };
}
