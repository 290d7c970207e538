import { createMask, type Mask } from './mask.ts';

const SUB_ROWS = 4;

/**
 * Coverage of a closed polygon (even-odd rule) on a `width` x `height` grid, anti-aliased: four sub-rows a pixel, exact
 * horizontally. `points` is x0, y0, x1, y1, ... in pixel coordinates; the last point joins the first. Fewer than
 * three points give an empty mask. O(rows x crossings).
 */
export function rasterisePolygon(points: readonly number[], width: number, height: number): Mask {
  const mask = createMask(width, height);
  const count = points.length >> 1;
  if (count < 3) return mask;
  let top = Infinity;
  let bottom = -Infinity;
  for (let i = 0; i < count; i++) {
    top = Math.min(top, points[2 * i + 1]!);
    bottom = Math.max(bottom, points[2 * i + 1]!);
  }
  const y0 = Math.max(0, Math.floor(top));
  const y1 = Math.min(height, Math.ceil(bottom));
  const coverage = new Float32Array(width + 1);
  for (let y = y0; y < y1; y++) {
    coverage.fill(0);
    for (let sub = 0; sub < SUB_ROWS; sub++) {
      const crossings = crossingsAt(points, count, y + (sub + 0.5) / SUB_ROWS);
      for (let k = 0; k + 1 < crossings.length; k += 2) addSpan(coverage, crossings[k]!, crossings[k + 1]!, width);
    }
    const row = y * width;
    for (let x = 0; x < width; x++) mask.data[row + x] = Math.min(255, Math.round((coverage[x]! * 255) / SUB_ROWS));
  }
  return mask;
}

function crossingsAt(points: readonly number[], count: number, y: number): number[] {
  const crossings: number[] = [];
  for (let i = 0, j = count - 1; i < count; j = i++) {
    const yi = points[2 * i + 1]!;
    const yj = points[2 * j + 1]!;
    if (yi > y !== yj > y) {
      const xi = points[2 * i]!;
      crossings.push(xi + ((y - yi) / (yj - yi)) * (points[2 * j]! - xi));
    }
  }
  return crossings.sort((a, b) => a - b);
}

function addSpan(coverage: Float32Array, from: number, to: number, width: number): void {
  const a = Math.max(0, Math.min(width, from));
  const b = Math.max(0, Math.min(width, to));
  if (b <= a) return;
  const first = Math.floor(a);
  const last = Math.floor(b);
  if (first === last) {
    coverage[first]! += b - a;
    return;
  }
  coverage[first]! += first + 1 - a;
  for (let x = first + 1; x < last; x++) coverage[x]! += 1;
  coverage[last]! += b - last;
}
