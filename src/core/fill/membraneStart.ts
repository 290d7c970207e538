import type { Level } from './level.ts';

const SWEEPS = 200;

/**
 * A smooth first filling of the coarsest level: each feature is interpolated harmonically from the rim (Gauss-Seidel
 * with over-relaxation; the level is small). Writes the hole's bytes in `level.features`.
 */
export function membraneStart(level: Level): void {
  const { width, height, hole, features } = level;
  const inside = Array.from(hole.keys()).filter((i) => hole[i]);
  const values = new Float32Array(features.length);
  for (let c = 0; c < 4; c++) {
    let mean = 0;
    let count = 0;
    for (let i = 0; i < hole.length; i++) {
      values[4 * i + c] = features[4 * i + c]!;
      if (hole[i]) continue;
      mean += features[4 * i + c]!;
      count++;
    }
    for (const i of inside) values[4 * i + c] = mean / Math.max(1, count);
  }
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    for (const i of inside) {
      const x = i % width;
      const y = (i - x) / width;
      for (let c = 0; c < 4; c++) {
        let sum = 0;
        let count = 0;
        if (x > 0) (sum += values[4 * (i - 1) + c]!), count++;
        if (x + 1 < width) (sum += values[4 * (i + 1) + c]!), count++;
        if (y > 0) (sum += values[4 * (i - width) + c]!), count++;
        if (y + 1 < height) (sum += values[4 * (i + width) + c]!), count++;
        const at = 4 * i + c;
        values[at]! += 1.8 * (sum / count - values[at]!);
      }
    }
  }
  for (const i of inside) {
    for (let c = 0; c < 4; c++) features[4 * i + c] = Math.max(0, Math.min(255, Math.round(values[4 * i + c]!)));
  }
}
