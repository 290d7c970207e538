import type { Combine } from '../../../../core/mask/combine.ts';
import type { MarkShape } from '../../../../operations/marks/markSchema.ts';
import type { Point } from '../photo/viewport.ts';
import type { Gesture } from './gesture.ts';

const SMALLEST_PX = 3;
const ELLIPSE_POINTS = 72;

/** Pulls up a box, or the ellipse in it, from corner to corner. */
export function drawFrame(
  kind: 'box' | 'ellipse',
  start: Point,
  combine: Combine,
  onDone: (shape: MarkShape) => void,
): Gesture {
  let to = start;
  const points = (): number[] => (kind === 'box' ? boxPoints(start, to) : ellipsePoints(start, to));
  return {
    move: (point) => void (to = point),
    end() {
      if (Math.abs(to.x - start.x) < SMALLEST_PX || Math.abs(to.y - start.y) < SMALLEST_PX) return;
      onDone({ kind: 'lasso', combine, points: points() });
    },
    cancel: () => undefined,
    live: () => ({ kind: 'lasso', points: points() }),
  };
}

const boxPoints = (a: Point, b: Point): number[] => [a.x, a.y, b.x, a.y, b.x, b.y, a.x, b.y].map(Math.round);

function ellipsePoints(a: Point, b: Point): number[] {
  const [cx, cy] = [(a.x + b.x) / 2, (a.y + b.y) / 2];
  const [rx, ry] = [Math.abs(a.x - b.x) / 2, Math.abs(a.y - b.y) / 2];
  return Array.from({ length: ELLIPSE_POINTS }, (_, k) => (2 * Math.PI * k) / ELLIPSE_POINTS).flatMap((angle) => [
    Math.round(10 * (cx + rx * Math.cos(angle))) / 10,
    Math.round(10 * (cy + ry * Math.sin(angle))) / 10,
  ]);
}
