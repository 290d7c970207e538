import simplify from 'simplify-js';
import type { Combine } from '../../../../core/mask/combine.ts';
import type { MarkShape } from '../../../../operations/marks/markSchema.ts';
import type { Point } from '../photo/viewport.ts';
import type { Gesture } from './gesture.ts';

/** Fewer photo px than this across are taken for a slip of the hand. */
const SMALLEST_PX = 3;

/** A loose line around something; closed when the pen is lifted. */
export function drawLasso(
  start: Point,
  combine: Combine,
  tolerancePx: number,
  onDone: (shape: MarkShape) => void,
): Gesture {
  const trail: Point[] = [start];
  return {
    move: (point) => void trail.push(point),
    end() {
      const points = simplify(trail, tolerancePx, true);
      const xs = points.map((p) => p.x);
      const ys = points.map((p) => p.y);
      const across = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
      if (points.length < 3 || across < SMALLEST_PX) return;
      onDone({ kind: 'lasso', combine, points: points.flatMap(({ x, y }) => [round(x), round(y)]) });
    },
    cancel: () => undefined,
    live: () => ({ kind: 'lasso', points: trail.flatMap(({ x, y }) => [x, y]) }),
  };
}

/** A tenth of a pixel is finer than any outline is drawn, and keeps recipes short. */
const round = (value: number): number => Math.round(value * 10) / 10;
