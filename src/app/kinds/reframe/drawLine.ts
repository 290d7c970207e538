import type { DrawnLine } from '../../../core/geometry/uprightFrom.ts';
import type { Point } from '../../features/bench/photo/viewport.ts';
import type { Gesture } from '../../features/bench/gestures/gesture.ts';

/** Draws a straight line; one shorter than `shortestPx` is none. */
export function drawLine(from: Point, shortestPx: number, onDone: (line: DrawnLine) => void): Gesture {
  let to = from;
  return {
    move: (point) => void (to = point),
    end() {
      if (Math.hypot(to.x - from.x, to.y - from.y) >= shortestPx) onDone({ from, to });
    },
    cancel: () => undefined,
    live: () => ({ kind: 'line', from, to }),
  };
}
