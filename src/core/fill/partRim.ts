import type { Hole, PartMask } from '../mask/byteMasks.ts';
/** The sides of a pixel: right, below, left, above. */
export const SIDES = 4;
export const ACROSS = [1, 0, -1, 0] as const;
export const DOWN = [0, 1, 0, -1] as const;

/** Whether only pixels of the part lie beside one of its pixels. At the picture's sides that need not be told. */
export const isInner = (part: PartMask, p: number, width: number): boolean =>
  part[p - 1] !== 0 && part[p + 1] !== 0 && part[p - width] !== 0 && part[p + width] !== 0;

/** Whether pixel (u, v) lies in the picture and is known (0). */
export const isKnown = (unknown: Hole, width: number, height: number, u: number, v: number): boolean =>
  u >= 0 && v >= 0 && u < width && v < height && unknown[v * width + u] === 0;
