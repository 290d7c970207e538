import type { Point } from '../photo/viewport.ts';
import type { Gesture } from './gesture.ts';

interface Shift {
  dxPx: number;
  dyPx: number;
}

/** A placement's shift and, where sizes follow the ground, its scale. */
export interface Dragged extends Shift {
  scale?: number;
}

/**
 * Drags the marked subject from where it has been put so far, by whole px: pixels then stay exactly as they are.
 * `settle` may turn a shift into another with a scale.
 */
export function placeSubject(
  start: Point,
  from: Shift,
  onDone: (dragged: Dragged) => void,
  settle: (shift: Shift) => Dragged = (shift) => shift,
): Gesture {
  let dragged: Dragged | undefined;
  return {
    move(point) {
      dragged = settle({
        dxPx: Math.round(from.dxPx + point.x - start.x),
        dyPx: Math.round(from.dyPx + point.y - start.y),
      });
    },
    end() {
      if (dragged) onDone(dragged);
    },
    cancel: () => undefined,
    live: () => ({ kind: 'place', ...from, ...dragged }),
  };
}
