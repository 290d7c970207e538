import type { Mask } from './mask.ts';

const FARTHEST = 1e10;
const FAR = FARTHEST ** 2;

/**
 * Squared Euclidean distance, in px, of every pixel to the nearest pixel whose coverage is >= 128 (`inside` true) or
 * < 128 (`inside` false); 0 on those pixels themselves, 1e20 where there are none. O(pixels).
 * P. Felzenszwalb, D. Huttenlocher: Distance Transforms of Sampled Functions, Theory of Computing, 2012.
 */
export function squaredDistanceTo(mask: Mask, inside: boolean): Float64Array {
  const { width, height, data } = mask;
  const distance = new Float64Array(width * height);
  // Along a column the nearest is the next one above or below: one sweep each way, whole rows at a time.
  for (let i = 0; i < distance.length; i++) {
    const above = i < width ? FARTHEST : distance[i - width]! + 1;
    distance[i] = data[i]! >= 128 === inside ? 0 : above;
  }
  for (let i = distance.length - width - 1; i >= 0; i--) {
    const below = distance[i + width]! + 1;
    if (below < distance[i]!) distance[i] = below;
  }
  const line = new Float64Array(width);
  const result = new Float64Array(width);
  const vertex = new Int32Array(width);
  const border = new Float64Array(width + 1);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) line[x] = Math.min(FAR, distance[row + x]! ** 2);
    lowerEnvelope(line, width, vertex, border, result);
    for (let x = 0; x < width; x++) distance[row + x] = result[x]!;
  }
  return distance;
}

/** One-dimensional transform: result[q] = min over p of (q - p)^2 + f[p]. */
function lowerEnvelope(f: Float64Array, n: number, vertex: Int32Array, border: Float64Array, result: Float64Array) {
  let k = -1;
  for (let q = 0; q < n; q++) {
    // What is infinitely far itself, or a zero between two others, is the nearest to nothing else.
    if (f[q]! >= FAR || (f[q] === 0 && q > 0 && q < n - 1 && f[q - 1] === 0 && f[q + 1] === 0)) continue;
    let s = -Infinity;
    while (k >= 0) {
      s = meeting(f, q, vertex[k]!);
      if (s > border[k]!) break;
      k--;
    }
    if (k < 0) s = -Infinity;
    vertex[++k] = q;
    border[k] = s;
    border[k + 1] = Infinity;
  }
  if (k < 0) {
    result.fill(FAR);
    return;
  }
  k = 0;
  for (let q = 0; q < n; q++) {
    if (f[q] === 0) {
      result[q] = 0;
      continue;
    }
    while (border[k + 1]! < q) k++;
    const p = vertex[k]!;
    result[q] = Math.min(FAR, (q - p) * (q - p) + f[p]!);
  }
}

const meeting = (f: Float64Array, q: number, p: number): number => (f[q]! + q * q - f[p]! - p * p) / (2 * (q - p));
