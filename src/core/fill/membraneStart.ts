import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import type { Level } from './level.ts';
import { floatsBy } from '../numeric/filled.ts';

const SWEEPS = 200;

/**
 * A smooth first filling of the coarsest level: each feature is interpolated harmonically from the rim (the level is
 * small). Writes the hole's bytes in `level.features`.
 */
export function membraneStart({ width, height, hole, features }: Level): void {
  for (let c = 0; c < 4; c++) {
    const values = floatsBy(hole.length, (i) => features[4 * i + c]!);
    interpolateHarmonically(values, hole, width, height, SWEEPS);
    for (let i = 0; i < hole.length; i++) {
      if (hole[i]) features[4 * i + c] = Math.max(0, Math.min(255, Math.round(values[i]!)));
    }
  }
}
