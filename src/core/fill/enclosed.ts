import type { Size } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { bytesBy } from '../numeric/filled.ts';

/** 1 where a pixel of a hole (non-zero) has known ones on both sides, in its row or in its column; O(pixels). */
export function enclosed(isHole: Uint8Array, width: number, height: number): Uint8Array {
  const sides = new Uint8Array(isHole.length);
  for (let y = 0; y < height; y++) {
    walk(isHole, y * width, 1, width, sides, 1);
    walk(isHole, y * width + width - 1, -1, width, sides, 2);
  }
  for (let x = 0; x < width; x++) {
    walk(isHole, x, width, height, sides, 4);
    walk(isHole, (height - 1) * width + x, -width, height, sides, 8);
  }
  return bytesBy(sides.length, (i) => ((sides[i]! & 3) === 3 || (sides[i]! & 12) === 12 ? 1 : 0));
}

/** Sets `bit` in `sides` wherever, on the way, there was a known pixel before. */
function walk(isHole: Uint8Array, start: number, step: number, count: number, sides: Uint8Array, bit: number): void {
  let hasKnown = false;
  for (let k = 0, i = start; k < count; k++, i += step) {
    if (!isHole[i]) hasKnown = true;
    else if (hasKnown) sides[i]! |= bit;
  }
}

/** A hole is looked at on a grid of so many points along its longer side. */
const GRID = 240;

/**
 * Whether most of a hole (one byte a pixel, non-zero) lies past the picture's edge, known from one side only, instead of
 * between known places.
 */
export function liesPastEdge(hole: Hole, { width, height }: Size): boolean {
  const step = Math.max(1, Math.ceil(Math.max(width, height) / GRID));
  const [columns, rows] = [Math.ceil(width / step), Math.ceil(height / step)];
  const points = new Uint8Array(columns * rows);
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) points[y * columns + x] = hole[step * (y * width + x)]!;
  }
  const isBetween = enclosed(points, columns, rows);
  let balance = 0;
  for (let i = 0; i < points.length; i++) if (points[i]) balance += isBetween[i] ? -1 : 1;
  return balance > 0;
}
