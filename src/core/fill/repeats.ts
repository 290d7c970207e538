import type { Kernels } from '../kernels/kernels.ts';
import type { Correspondence } from './correspondence.ts';
import { upperQuartile } from './vote.ts';
import { PATCH_RADIUS, type Level } from './level.ts';

/**
 * Writes into `level.bias` what donors cost for being used often, on top of their own `costs` (one a pixel): nothing
 * where, on a patch's average, each pixel is used once or less; above that `spread` times the 75th percentile of all
 * costs for every further use. Remarkable things, that all targets near them would take, are so not repeated.
 * A. Kaspar et al.: Self Tuning Texture Optimization, Eurographics, 2015 (uniform use of the example).
 */
export function chargeRepeats(
  level: Level,
  field: Correspondence,
  spread: number,
  costs: Int32Array,
  kernels: Kernels,
): void {
  const { width, height, targets, donors, bias } = level;
  const uses = new Float32Array(width * height);
  for (const target of targets) uses[field.donor[target]!]! += 1;
  const density = kernels.blur(uses, width, height, PATCH_RADIUS, 1);
  const unit = spread * upperQuartile(level, field);
  for (const donor of donors) bias[donor] = costs[donor]! + Math.round(unit * Math.max(0, density[donor]! - 1));
}
