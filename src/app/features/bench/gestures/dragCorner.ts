import type { Point } from '../photo/viewport.ts';
import type { Gesture } from './gesture.ts';

/** Drags a plane's corner; a touch leaves it where it is. */
export function dragCorner(plane: number, corner: number, onDone: (at: Point) => void): Gesture {
  let at: Point | undefined;
  return {
    move: (point) => void (at = point),
    end: () => at && onDone(at),
    cancel: () => undefined,
    live: () => at && { kind: 'corner', plane, corner, at },
  };
}
