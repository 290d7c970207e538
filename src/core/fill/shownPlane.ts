import type { Plane } from '../planes/findPlanes.ts';

/** Squares of a picture where edges show that a plane is there. */
export type Shown = Plane['shown'];

/** Whether edges show that a plane is at a pixel; one drawn by hand, of which none are known, is everywhere in its corners. */
export function isShown(shown: Shown | undefined, x: number, y: number): boolean {
  return !shown || shown.data[Math.floor(y / shown.side) * shown.width + Math.floor(x / shown.side)] === 1;
}
