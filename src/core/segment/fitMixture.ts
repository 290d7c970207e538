import type { Kernels } from '../kernels/kernels.ts';
import { createRandom, type RandomStream } from '../numeric/random.ts';
import { FEATURES, FEWEST_SAMPLES, MAX_COMPONENTS, PARAMETERS, type ColourMixture } from './colourMixture.ts';
import { mixtureWork, type MixtureWork } from './mixtureBands.ts';

const ROUNDS = 6;
/** In the first rounds, samples go to the nearest centre; after that to the likeliest component. */
const ROUNDS_BY_DISTANCE = 3;
const SMALLEST_VARIANCE = 6;

/**
 * Fits a mixture to weighted samples (rows of FEATURES numbers in `features`, named by `samples`): spread starting
 * points, then hard assignment in turns with means and covariances. Deterministic for its random stream.
 * O(samples x components). D. Arthur, S. Vassilvitskii: k-means++, SODA, 2007; C. Rother et al.: GrabCut, SIGGRAPH, 2004.
 */
export function fitMixture(
  features: Float32Array,
  samples: ArrayLike<number>,
  weights: ArrayLike<number>,
  components: number,
  random: RandomStream,
  kernels: Kernels,
): ColourMixture {
  kernels.reset();
  const work = mixtureWork(features, samples, components, kernels.scratch);
  work.weights.set(weights);
  const centres = spreadCentres(work, random);
  for (let round = 0; round < ROUNDS; round++) {
    if (round < ROUNDS_BY_DISTANCE) toSpheres(work, centres);
    kernels.labelPicks(work);
    kernels.gatherMoments(work);
    toMixture(work, centres);
  }
  return {
    components,
    means: work.means.slice(),
    whitening: work.whitening.slice(),
    offsets: work.offsets.slice(),
  };
}

/** The mixture of the samples named (see `fitMixture`), always the same; where no weights are given all count alike. */
export function mixtureFor(
  features: Float32Array,
  samples: readonly number[],
  kernels: Kernels,
  { weights, components = MAX_COMPONENTS }: { weights?: readonly number[]; components?: number } = {},
): ColourMixture {
  const counted = weights ?? new Float32Array(samples.length).fill(1);
  return fitMixture(features, samples, counted, components, createRandom(7), kernels);
}

/** Each next centre is a sample drawn in proportion to its squared distance from those before. */
function spreadCentres(
  { features, picks: samples, weights, components }: MixtureWork,
  random: RandomStream,
): Float64Array {
  const centres = new Float64Array(components * FEATURES);
  const distances = new Float64Array(samples.length).fill(1);
  for (let k = 0; k < components; k++) {
    let total = 0;
    for (let s = 0; s < samples.length; s++) total += distances[s]! * weights[s]!;
    let rest = (total * random.below(1_000_000)) / 1_000_000;
    let pick = 0;
    while (pick < samples.length - 1 && (rest -= distances[pick]! * weights[pick]!) > 0) pick++;
    for (let f = 0; f < FEATURES; f++) centres[k * FEATURES + f] = features[FEATURES * samples[pick]! + f]!;
    for (let s = 0; s < samples.length; s++) {
      const distance = squaredDistance(centres, k, features, FEATURES * samples[s]!);
      if (k === 0 || distance < distances[s]!) distances[s] = distance;
    }
  }
  return centres;
}

function squaredDistance(centres: Float64Array, k: number, features: Float32Array, at: number): number {
  let sum = 0;
  for (let f = 0; f < FEATURES; f++) sum += (features[at + f]! - centres[k * FEATURES + f]!) ** 2;
  return sum;
}

/** Components whose cost is half the squared distance from their centre. */
function toSpheres({ components, means, whitening, offsets }: MixtureWork, centres: Float64Array): void {
  means.set(centres);
  whitening.fill(0);
  offsets.fill(0);
  for (let k = 0; k < components; k++) {
    for (let row = 0; row < FEATURES; row++) whitening[k * PARAMETERS + diagonal(row)] = 1;
  }
}

/** Turns gathered moments into a mixture; its means become the new `centres`. */
function toMixture(
  { components, means, whitening, offsets, totals, spreads }: MixtureWork,
  centres: Float64Array,
): void {
  const all = totals.reduce((a, b) => a + b, 0);
  whitening.fill(0);
  offsets.fill(Infinity);
  for (let k = 0; k < components; k++) {
    if (totals[k]! < FEWEST_SAMPLES) continue;
    centres.set(means.subarray(k * FEATURES, (k + 1) * FEATURES), k * FEATURES);
    const spread = spreads.slice(k * PARAMETERS, (k + 1) * PARAMETERS).map((value) => value / totals[k]!);
    const factor = inverseCholesky(spread);
    whitening.set(factor, k * PARAMETERS);
    let logVolume = 0;
    for (let row = 0; row < FEATURES; row++) logVolume -= Math.log(factor[diagonal(row)]!);
    offsets[k] = logVolume - Math.log(totals[k]! / all);
  }
}

const diagonal = (row: number): number => (row * (row + 1)) / 2 + row;

/** The inverse of the Cholesky factor of a covariance (both as lower triangles), its variances kept off zero. */
function inverseCholesky(spread: Float64Array): Float64Array {
  const at = (row: number, column: number): number => (row * (row + 1)) / 2 + column;
  const factor = spread.slice();
  for (let row = 0; row < FEATURES; row++) {
    factor[at(row, row)]! += SMALLEST_VARIANCE;
    for (let column = 0; column <= row; column++) {
      let value = factor[at(row, column)]!;
      for (let k = 0; k < column; k++) value -= factor[at(row, k)]! * factor[at(column, k)]!;
      factor[at(row, column)] = row === column ? Math.sqrt(Math.max(1e-6, value)) : value / factor[at(column, column)]!;
    }
  }
  const inverse = new Float64Array(PARAMETERS);
  for (let row = 0; row < FEATURES; row++) {
    inverse[at(row, row)] = 1 / factor[at(row, row)]!;
    for (let column = row - 1; column >= 0; column--) {
      let sum = 0;
      for (let k = column; k < row; k++) sum += factor[at(row, k)]! * inverse[at(k, column)]!;
      inverse[at(row, column)] = -sum / factor[at(row, row)]!;
    }
  }
  return inverse;
}
