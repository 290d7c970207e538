import type { RunOnParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import type { Point } from '../photo/viewport.ts';

/** What is being drawn or dragged and not yet part of the state; painted live. */
export type LiveShape =
  | { kind: 'lasso'; points: number[] }
  /** An outline under way, and the points of it that were set. */
  | { kind: 'outline'; points: number[]; set: readonly Point[] }
  | { kind: 'stroke'; points: number[]; radiusPx: number; takesAway: boolean }
  /** Settings of the draft's kind, as they would be if it ended now. */
  | { kind: 'change'; change: object }
  | { kind: 'line'; from: Point; to: Point }
  /** Lines that run on, as they would be if it ended now. */
  | { kind: 'runOn'; lines: RunOnParams[] }
  | { kind: 'corner'; plane: number; corner: number; at: { x: number; y: number } };

/** Keys held while a gesture goes on. */
export interface HeldKeys {
  shift: boolean;
  alt: boolean;
}

/** One gesture from pen down to pen up; `cancel` leaves everything as it was before. */
export interface Gesture {
  move(photoPoint: Point, held?: HeldKeys): void;
  end(): void;
  cancel(): void;
  live(): LiveShape | undefined;
  /** For gestures of several touches: true when the pen's lifting is not their end. */
  goesOn?(): boolean;
}

/** A gesture of several touches, each setting a point. */
export interface PointGesture extends Gesture {
  set(point: Point): void;
  /** Takes the last point back. */
  back(): void;
}

export const setsPoints = (gesture: Gesture | undefined): gesture is PointGesture =>
  gesture !== undefined && 'set' in gesture;
