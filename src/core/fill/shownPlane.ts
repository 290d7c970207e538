import type { Plane } from '../planes/findPlanes.ts';

/** Squares of a picture where edges show that a plane is there. */
export type Shown = Plane['shown'];

/** Whether edges show that a plane is at a pixel; one drawn by hand, of which none are known, is everywhere in its corners. */
export function isShown(shown: Shown | undefined, x: number, y: number): boolean {
  if (!shown) return true;
  const { side, width, data } = shown;
  return data[Math.floor((y - shown.y) / side) * width + Math.floor((x - shown.x) / side)] === 1;
}
