import type { Combine } from '../../../../core/mask/combine.ts';
import type { MarkShape } from '../../../../operations/marks/markSchema.ts';
import type { Point } from '../photo/viewport.ts';
import type { PointGesture } from './gesture.ts';

/**
 * A lasso of straight sides: every touch sets a corner, one near the first closes it.
 * `nearPx` is how near, in photo px.
 */
export function setCorners(
  start: Point,
  combine: Combine,
  nearPx: number,
  onDone: (shape: MarkShape) => void,
): PointGesture {
  const corners: Point[] = [start];
  let hover = start;
  let closed = false;
  const flat = (points: readonly Point[]): number[] => points.flatMap(({ x, y }) => [Math.round(x), Math.round(y)]);
  return {
    set(point) {
      const isNear = Math.hypot(point.x - start.x, point.y - start.y) <= nearPx;
      if (isNear && corners.length >= 3) closed = true;
      else if (!isNear) corners.push(point);
    },
    back() {
      if (corners.length > 1) corners.pop();
    },
    move: (point) => void (hover = point),
    goesOn: () => !closed,
    end() {
      if (corners.length >= 3) onDone({ kind: 'lasso', combine, points: flat(corners) });
    },
    cancel: () => undefined,
    live: () => ({ kind: 'outline', points: flat([...corners, hover]), set: corners }),
  };
}
