import { PATCH_RADIUS, PATCH_SIDE } from './level.ts';

const ROW_BYTES = PATCH_SIDE * 4;
/** Rows of the patch in the order that tells patches apart soonest: middle, rims, then the rest. */
const ROW_ORDER = [3, 0, 6, 1, 5, 2, 4] as const;

/**
 * Sum of squared differences of the four feature bytes over two 7 x 7 patches with centres `a` and `b` (pixel
 * indices; both patches must lie inside the level). Stops early and returns a number >= `limit` once the sum reaches
 * `limit`. Integer, exact: at most 49 x 4 x 255^2 < 2^24.
 */
export function patchCost(features: Uint8Array, width: number, a: number, b: number, limit: number): number {
  const rowStride = width * 4;
  const a0 = (a - PATCH_RADIUS * width - PATCH_RADIUS) * 4;
  const b0 = (b - PATCH_RADIUS * width - PATCH_RADIUS) * 4;
  let cost = 0;
  for (let k = 0; k < PATCH_SIDE; k++) {
    const row = ROW_ORDER[k]! * rowStride;
    let i = a0 + row;
    let j = b0 + row;
    const end = i + ROW_BYTES;
    while (i < end) {
      const d0 = features[i]! - features[j]!;
      const d1 = features[i + 1]! - features[j + 1]!;
      const d2 = features[i + 2]! - features[j + 2]!;
      const d3 = features[i + 3]! - features[j + 3]!;
      cost += d0 * d0 + d1 * d1 + d2 * d2 + d3 * d3;
      i += 4;
      j += 4;
    }
    if (cost >= limit) return cost;
  }
  return cost;
}
