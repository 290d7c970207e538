import type { Combine } from '../../../../core/mask/combine.ts';
import type { MarkShape } from '../../../../operations/marks/markSchema.ts';
import type { Point } from '../photo/viewport.ts';
import type { Gesture } from './gesture.ts';
import { outlineShape } from './outlineShape.ts';

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
      const shape = outlineShape(trail, combine, tolerancePx);
      if (shape) onDone(shape);
    },
    cancel: () => undefined,
    live: () => ({ kind: 'lasso', points: trail.flatMap(({ x, y }) => [x, y]) }),
  };
}
