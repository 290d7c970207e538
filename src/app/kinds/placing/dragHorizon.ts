import type { Gesture } from '../../features/bench/gestures/gesture.ts';

/** Drags the horizon up or down. `settle` gives what goes with it. */
export function dragHorizon(settle: (horizonPx: number) => object, onDone: (change: object) => void): Gesture {
  let change: object | undefined;
  return {
    move: (point) => void (change = settle(Math.round(point.y))),
    end: () => change && onDone(change),
    cancel: () => undefined,
    live: () => change && { kind: 'change', change },
  };
}
