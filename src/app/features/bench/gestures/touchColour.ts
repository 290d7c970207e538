import type { Point } from '../photo/viewport.ts';
import type { Gesture } from './gesture.ts';

/** Touches a colour: where the pen is lifted counts. */
export function touchColour(start: Point, onDone: (at: Point) => void): Gesture {
  let at = start;
  return { move: (point) => void (at = point), end: () => onDone(at), cancel: () => undefined, live: () => undefined };
}
