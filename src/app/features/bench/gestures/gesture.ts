import type { Point } from '../photo/viewport.ts';

/** What is being drawn or dragged and not yet part of the state; painted live. */
export type LiveShape =
  | { kind: 'lasso'; points: number[] }
  | { kind: 'stroke'; points: number[]; radiusPx: number; takesAway: boolean }
  | { kind: 'place'; dxPx: number; dyPx: number; scale?: number }
  | { kind: 'horizon'; y: number }
  | { kind: 'corner'; plane: number; corner: number; at: { x: number; y: number } };

/** One gesture from pen down to pen up; `cancel` leaves everything as it was before. */
export interface Gesture {
  move(photoPoint: Point): void;
  end(): void;
  cancel(): void;
  live(): LiveShape | undefined;
  /** For gestures of several touches: true when the pen's lifting is not their end. */
  goesOn?(): boolean;
}
