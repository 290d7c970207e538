import type { Size } from '../image/rect.ts';

// Burt's five-tap binomial, 1 4 6 4 1, edges repeated. Planes are row by row, one value a px.

export const halfSize = ({ width, height }: Size): Size => ({ width: (width + 1) >> 1, height: (height + 1) >> 1 });

/** A plane at half its size (rounded up), smoothed before. */
export function halvePlane(plane: Float32Array, { width, height }: Size): Float32Array {
  const half = halfSize({ width, height });
  const across = new Float32Array(half.width * height);
  // Each row between repeated edges, so that the loop needs no bounds checks.
  const line = new Float32Array(width + 5);
  for (let y = 0, to = 0; y < height; y++) {
    const row = y * width;
    line.set(plane.subarray(row, row + width), 2);
    line.fill(plane[row]!, 0, 2);
    line.fill(plane[row + width - 1]!, width + 2);
    for (let x = 0, c = 2; x < half.width; x++, c += 2, to++) {
      across[to] = (line[c - 2]! + line[c + 2]! + 4 * (line[c - 1]! + line[c + 1]!) + 6 * line[c]!) * 0.0625;
    }
  }
  const out = new Float32Array(half.width * half.height);
  const w = half.width;
  for (let y = 0; y < half.height; y++) {
    const c = 2 * y * w;
    const last = (height - 1) * w;
    const a = Math.max(0, c - 2 * w);
    const b = Math.max(0, c - w);
    const d = Math.min(last, c + w);
    const e = Math.min(last, c + 2 * w);
    for (let x = 0, to = y * w; x < w; x++, to++) {
      out[to] = (across[a + x]! + across[e + x]! + 4 * (across[b + x]! + across[d + x]!) + 6 * across[c + x]!) * 0.0625;
    }
  }
  return out;
}

/** A plane that was halved, back at the size it had: smoothly in between, nothing of the lost detail. */
export function doublePlane(half: Float32Array, { width, height }: Size): Float32Array {
  const small = halfSize({ width, height });
  const down = new Float32Array(small.width * height);
  const w = small.width;
  for (let y = 0; y < height; y++) {
    const middle = (y >> 1) * w;
    const below = Math.min(small.height - 1, (y >> 1) + 1) * w;
    const above = Math.max(0, (y >> 1) - 1) * w;
    const to = y * w;
    if (y & 1) for (let x = 0; x < w; x++) down[to + x] = (half[middle + x]! + half[below + x]!) * 0.5;
    else
      for (let x = 0; x < w; x++) down[to + x] = (half[above + x]! + 6 * half[middle + x]! + half[below + x]!) * 0.125;
  }
  const out = new Float32Array(width * height);
  const line = new Float32Array(w + 2);
  for (let y = 0; y < height; y++) {
    const row = y * w;
    const to = y * width;
    line.set(down.subarray(row, row + w), 1);
    line[0] = down[row]!;
    line[w + 1] = down[row + w - 1]!;
    for (let x = 0, i = to; x < w; x++, i += 2) out[i] = (line[x]! + 6 * line[x + 1]! + line[x + 2]!) * 0.125;
    for (let x = 0, i = to + 1, end = to + width; i < end; x++, i += 2) out[i] = (line[x + 1]! + line[x + 2]!) * 0.5;
  }
  return out;
}
