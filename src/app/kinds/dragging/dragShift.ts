import type { Gesture } from '../../features/bench/gestures/gesture.ts';
import type { Point } from '../../features/bench/photo/viewport.ts';

interface Shift {
  dxPx: number;
  dyPx: number;
}

/**
 * Drags something from where it has been put so far, by whole px: pixels then stay exactly as they are. `settle` gives
 * the settings that a shift leads to.
 */
export function dragShift(
  start: Point,
  from: Shift,
  settle: (shift: Shift) => object,
  onDone: (change: object) => void,
): Gesture {
  let change: object | undefined;
  return {
    move(point) {
      change = settle({
        dxPx: Math.round(from.dxPx + point.x - start.x),
        dyPx: Math.round(from.dyPx + point.y - start.y),
      });
    },
    end: () => change && onDone(change),
    cancel: () => undefined,
    live: () => change && { kind: 'change', change },
  };
}
