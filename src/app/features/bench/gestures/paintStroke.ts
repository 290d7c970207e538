import simplify from 'simplify-js';
import type { Combine } from '../../../../core/mask/combine.ts';
import type { MarkShape } from '../../../../operations/marks/markSchema.ts';
import type { Point } from '../photo/viewport.ts';
import type { Gesture } from './gesture.ts';

/** One stroke of the brush; a touch gives a dab. */
export function paintStroke(
  start: Point,
  combine: Combine,
  tip: { radiusPx: number; hardness: number; intensity: number },
  onDone: (shape: MarkShape) => void,
): Gesture {
  const trail: Point[] = [start];
  return {
    move: (point) => void trail.push(point),
    end() {
      const points = simplify(trail, tip.radiusPx / 20, true);
      onDone({ kind: 'stroke', combine, ...tip, points: points.flatMap(({ x, y }) => [x, y]) });
    },
    cancel: () => undefined,
    live: () => ({
      kind: 'stroke',
      points: trail.flatMap(({ x, y }) => [x, y]),
      radiusPx: tip.radiusPx,
      takesAway: combine === 'without',
    }),
  };
}
