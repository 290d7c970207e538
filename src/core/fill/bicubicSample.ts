import { cubicWeight } from '../image/resample.ts';

/** Keys' cubic (a = -.5) of RGBA bytes at a point, edges repeated, times `weight`, added to three channels. */
export function addBicubicBytes(
  data: Uint8ClampedArray,
  width: number,
  height: number,
  x: number,
  y: number,
  weight: number,
  sum: Float32Array,
): void {
  const x0 = Math.floor(x - 0.5);
  const y0 = Math.floor(y - 0.5);
  const fx = x - 0.5 - x0;
  const fy = y - 0.5 - y0;
  for (let k = 0; k < TAPS; k++) {
    across[k] = cubicWeight(k - 1 - fx);
    down[k] = cubicWeight(k - 1 - fy);
  }
  for (let v = 0; v < TAPS; v++) {
    const row = Math.max(0, Math.min(height - 1, y0 + v - 1)) * width;
    for (let u = 0; u < TAPS; u++) {
      const w = weight * across[u]! * down[v]!;
      const at = 4 * (row + Math.max(0, Math.min(width - 1, x0 + u - 1)));
      sum[0]! += w * data[at]!;
      sum[1]! += w * data[at + 1]!;
      sum[2]! += w * data[at + 2]!;
    }
  }
}

const TAPS = 4;
const across = new Float64Array(TAPS);
const down = new Float64Array(TAPS);

/** Samples along each side of a pixel where an area is `enlarged` times as large at the source, at most 4. */
export const samplesAlong = (enlarged: number): number =>
  Math.max(1, Math.min(4, Math.ceil(Math.sqrt(enlarged) - 0.3)));
