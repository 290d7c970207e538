import type { Point } from '../photo/viewport.ts';
import type { Gesture } from './gesture.ts';

interface Shift {
  dxPx: number;
  dyPx: number;
}

/** Drags the marked subject from where it has been put so far, by whole px: pixels then stay exactly as they are. */
export function placeSubject(start: Point, from: Shift, onDone: (shift: Shift) => void): Gesture {
  let shift = from;
  return {
    move(point) {
      shift = { dxPx: Math.round(from.dxPx + point.x - start.x), dyPx: Math.round(from.dyPx + point.y - start.y) };
    },
    end() {
      if (shift.dxPx !== from.dxPx || shift.dyPx !== from.dyPx) onDone(shift);
    },
    cancel: () => undefined,
    live: () => ({ kind: 'place', ...shift }),
  };
}
