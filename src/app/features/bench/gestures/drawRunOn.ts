import simplify from 'simplify-js';
import { MOST_POINTS, type RunOnParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import type { Point } from '../photo/viewport.ts';
import { withNew } from '../runOn.ts';
import type { Gesture } from './gesture.ts';

/** Draws a line from where the pen is put down to where it is lifted: straight where the hand goes about straight. */
export function drawRunOn(
  start: Point,
  lines: readonly RunOnParams[],
  { tolerancePx, shortestPx }: { tolerancePx: number; shortestPx: number },
  onDone: (lines: RunOnParams[]) => void,
): Gesture {
  const trail: Point[] = [start];
  const drawn = (): RunOnParams[] | undefined => {
    const end = trail.at(-1)!;
    if (Math.hypot(end.x - start.x, end.y - start.y) < shortestPx) return undefined;
    return withNew(lines, { points: asFewPoints(trail, tolerancePx), widthsPx: [0, 0], on: true });
  };
  return {
    move: (point) => void trail.push(point),
    end() {
      const all = drawn();
      if (all) onDone(all);
    },
    cancel: () => undefined,
    live() {
      const all = drawn();
      return all && { kind: 'runOn', lines: all };
    },
  };
}

/** Points of a trail from which it is nowhere farther than it must be for so few of them. */
function asFewPoints(trail: Point[], tolerancePx: number): Point[] {
  for (let tolerance = tolerancePx; ; tolerance *= 1.5) {
    const points = simplify(trail, tolerance, true);
    if (points.length <= MOST_POINTS) return points.map(({ x, y }) => ({ x, y }));
  }
}
