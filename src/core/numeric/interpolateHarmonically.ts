import type { Hole } from '../mask/byteMasks.ts';
import { bytesBy } from './filled.ts';

const OVER_RELAXATION = 1.8;

/**
 * Replaces the values where `hole` is non-zero by a smooth (harmonic) interpolation of those around, in place: Gauss-
 * Seidel with over-relaxation from the mean of the known values; the grid's border is free. Close to converged for
 * holes up to about `sweeps` / 2 px across. O(hole pixels x sweeps).
 */
export function interpolateHarmonically(
  values: Float32Array,
  hole: Hole,
  width: number,
  height: number,
  sweeps: number,
): void {
  const inside: number[] = [];
  let mean = 0;
  for (let i = 0; i < hole.length; i++) {
    if (hole[i]) inside.push(i);
    else mean += values[i]!;
  }
  mean /= Math.max(1, hole.length - inside.length);
  for (const i of inside) values[i] = mean;
  const last = width * height;
  const places = new Int32Array(inside);
  const isInner = bytesBy(inside.length, (k) => {
    const i = places[k]!;
    return i % width > 0 && i % width < width - 1 && i >= width && i < last - width ? 1 : 0;
  });
  for (let sweep = 0; sweep < sweeps; sweep++) {
    for (let k = 0; k < places.length; k++) {
      const i = places[k]!;
      if (isInner[k]) {
        const around = values[i - 1]! + values[i + 1]! + values[i - width]! + values[i + width]!;
        values[i]! += OVER_RELAXATION * (around / 4 - values[i]!);
        continue;
      }
      const x = i % width;
      let sum = 0;
      let count = 0;
      if (x > 0) {
        sum += values[i - 1]!;
        count++;
      }
      if (x + 1 < width) {
        sum += values[i + 1]!;
        count++;
      }
      if (i >= width) {
        sum += values[i - width]!;
        count++;
      }
      if (i + width < last) {
        sum += values[i + width]!;
        count++;
      }
      values[i]! += OVER_RELAXATION * (sum / count - values[i]!);
    }
  }
}
