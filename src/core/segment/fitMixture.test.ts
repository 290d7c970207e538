import { createRandom } from '../numeric/random.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { FEATURES, logDensity } from './colourMixture.ts';
import { fitMixture } from './fitMixture.ts';

/** Two clouds of features: around 50 and, twice as many, around 180. */
const random = createRandom(3);
const FEATURE_ROWS = Float32Array.from({ length: 900 * FEATURES }, (_, i) => {
  const centre = Math.floor(i / FEATURES) % 3 === 0 ? 50 : 180;
  return centre + random.below(21) - 10;
});
const ALL = Int32Array.from({ length: 900 }, (_, i) => i);
const MIXTURE = fitMixture(FEATURE_ROWS, ALL, new Float32Array(900).fill(1), 2, createRandom(1), createTwinKernels());

test('the means of two clouds are found', () => {
  const means = [MIXTURE.means[0]!, MIXTURE.means[FEATURES]!].sort((a, b) => a - b);
  expect(Math.abs(means[0]! - 50)).toBeLessThan(1.5);
  expect(Math.abs(means[1]! - 180)).toBeLessThan(1.5);
});

test('densities at both means differ by the clouds’ shares, and fall off between them', () => {
  const at = (value: number): number => logDensity(MIXTURE, new Float32Array(FEATURES).fill(value), 0);
  // Equal spreads: the logarithms at both means differ by that of the shares, ln 2.
  expect(Math.abs(at(180) - at(50) - Math.LN2)).toBeLessThan(0.35);
  // Half way between lies next to nothing.
  expect(at(115)).toBeLessThan(at(50) - 20);
});

test('the same stream gives the same mixture', () => {
  const again = fitMixture(FEATURE_ROWS, ALL, new Float32Array(900).fill(1), 2, createRandom(1), createTwinKernels());
  expect(again).toEqual(MIXTURE);
});
