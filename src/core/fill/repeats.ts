import { BAND_ROWS } from '../kernels/bands.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Correspondence } from './correspondence.ts';
import { upperQuartile } from './vote.ts';
import type { Level } from './level.ts';

/**
 * Writes into `level.bias` what donors cost for being used often, on top of their own `costs` (one a pixel, from the
 * kernels' scratch): nothing where, on a patch's average, each pixel is used once or less; above that `spread` times the
 * 75th percentile of all costs for every further use. Remarkable things, that all targets near them would take, are so
 * not repeated. A. Kaspar et al.: Self Tuning Texture Optimization, Eurographics, 2015 (uniform use of the example).
 */
export function chargeRepeats(
  level: Level,
  field: Correspondence,
  spread: number,
  costs: Int32Array,
  kernels: Kernels,
): void {
  const giveBack = kernels.scratch.hold();
  const uses = kernels.scratch.floats(level.width * level.height);
  const { targets } = level;
  for (let k = 0; k < targets.length; k++) uses[field.donor[targets[k]!]!]! += 1;
  kernels.charge(level, uses, costs, spread * upperQuartile(level, field));
  giveBack();
}

/** What donors in a band of rows cost where, on a patch's average, they are used `density` times. */
export function chargeBand(level: Level, density: Float32Array, costs: Int32Array, unit: number, band: number): void {
  const { width, height, bias } = level;
  const end = width * Math.min(height, (band + 1) * BAND_ROWS);
  for (let i = width * band * BAND_ROWS; i < end; i++) {
    bias[i] = costs[i]! + Math.floor(unit * Math.max(0, density[i]! - 1) + 0.5);
  }
}
