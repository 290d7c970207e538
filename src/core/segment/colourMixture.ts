import { createRandom, type RandomStream } from '../numeric/random.ts';

/** Numbers a pixel is described by: luma, two colour differences, and its place (see `describePixels`). */
export const FEATURES = 5;
const PARAMETERS = (FEATURES * (FEATURES + 1)) / 2;
const ROUNDS = 6;
/** In the first rounds, samples go to the nearest centre; after that to the likeliest component. */
const ROUNDS_BY_DISTANCE = 3;
const SMALLEST_VARIANCE = 6;
const FEWEST_SAMPLES = 5;

/** A mixture of normal distributions with full covariance. */
export interface ColourMixture {
  components: number;
  /** FEATURES means a component. */
  means: Float64Array;
  /** The lower triangle, row by row, of the inverse of each covariance's Cholesky factor. */
  whitening: Float64Array;
  /** What each component adds to the negated logarithm of the density, its share included. */
  offsets: Float64Array;
}

/**
 * Fits a mixture to weighted samples (rows of FEATURES numbers in `features`, named by `samples`): spread starting
 * points, then hard assignment in turns with means and covariances. Deterministic for its random stream.
 * O(samples x components). D. Arthur, S. Vassilvitskii: k-means++, SODA, 2007; C. Rother et al.: GrabCut, SIGGRAPH, 2004.
 */
export function fitMixture(
  features: Float32Array,
  samples: Int32Array,
  weights: Float32Array,
  components: number,
  random: RandomStream,
): ColourMixture {
  const centres = spreadCentres(features, samples, weights, components, random);
  const labels = new Uint8Array(samples.length);
  let mixture: ColourMixture | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    for (let k = 0; k < samples.length; k++) {
      const at = FEATURES * samples[k]!;
      labels[k] =
        mixture && round >= ROUNDS_BY_DISTANCE ? likeliest(mixture, features, at) : nearest(centres, features, at);
    }
    mixture = mixtureOf(features, samples, weights, labels, components, centres);
  }
  return mixture!;
}

/** Where logarithms of densities are weighed against each other, no pixel counts as less likely. */
export const LOWEST_DENSITY = -16;
/** Components of a subject's or a ground's mixture. */
export const MOST_COMPONENTS = 8;

/** The mixture of the samples named (see `fitMixture`), always the same; where no weights are given all count alike. */
export function mixtureFor(
  features: Float32Array,
  samples: number[],
  weights?: number[],
  components = MOST_COMPONENTS,
): ColourMixture {
  const counted = weights ? Float32Array.from(weights) : new Float32Array(samples.length).fill(1);
  return fitMixture(features, Int32Array.from(samples), counted, components, createRandom(7));
}

/** The logarithm of a mixture's density at the features that begin at `at`. */
export function logDensity(mixture: ColourMixture, features: Float32Array, at: number): number {
  let least = Infinity;
  let sum = 0;
  for (let k = 0; k < mixture.components; k++) {
    const cost = componentCost(mixture, k, features, at, least + NEGLIGIBLE);
    if (cost < least) {
      sum = 1 + sum * Math.exp(cost - least);
      least = cost;
    } else if (cost < Infinity) {
      sum += Math.exp(least - cost);
    }
  }
  return Math.log(sum) - least;
}

/** What a component may cost beyond the cheapest and still be counted: the rest adds less than e^-12 of the density. */
const NEGLIGIBLE = 12;

/**
 * The negated logarithm of one component's share of the density, where that is at most `most`; else infinite or
 * anything above `most`. Infinite for a component without samples.
 */
export function componentCost(
  mixture: ColourMixture,
  k: number,
  features: Float32Array,
  at: number,
  most = Infinity,
): number {
  const { means, whitening, offsets } = mixture;
  if (offsets[k] === Infinity) return Infinity;
  const bound = 2 * (most - offsets[k]!);
  let sum = 0;
  let entry = k * PARAMETERS;
  for (let row = 0; row < FEATURES; row++) {
    let z = 0;
    for (let column = 0; column <= row; column++) {
      z += whitening[entry++]! * (features[at + column]! - means[k * FEATURES + column]!);
    }
    sum += z * z;
    if (sum > bound) return Infinity;
  }
  return 0.5 * sum + offsets[k]!;
}

/** The component that has the largest share of the density at the features that begin at `at`. */
export function likeliest(mixture: ColourMixture, features: Float32Array, at: number): number {
  let best = 0;
  let least = Infinity;
  for (let k = 0; k < mixture.components; k++) {
    const cost = componentCost(mixture, k, features, at, least);
    if (cost >= least) continue;
    least = cost;
    best = k;
  }
  return best;
}

function squaredDistance(centres: Float64Array, k: number, features: Float32Array, at: number): number {
  let sum = 0;
  for (let f = 0; f < FEATURES; f++) sum += (features[at + f]! - centres[k * FEATURES + f]!) ** 2;
  return sum;
}

function nearest(centres: Float64Array, features: Float32Array, at: number): number {
  let best = 0;
  let least = Infinity;
  for (let k = 0; k * FEATURES < centres.length; k++) {
    const distance = squaredDistance(centres, k, features, at);
    if (distance >= least) continue;
    least = distance;
    best = k;
  }
  return best;
}

/** Each next centre is a sample drawn in proportion to its squared distance from those before. */
function spreadCentres(
  features: Float32Array,
  samples: Int32Array,
  weights: Float32Array,
  components: number,
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

/** Means and covariances of labelled samples; the means become the new `centres`. */
function mixtureOf(
  features: Float32Array,
  samples: Int32Array,
  weights: Float32Array,
  labels: Uint8Array,
  components: number,
  centres: Float64Array,
): ColourMixture {
  const totals = new Float64Array(components);
  const means = new Float64Array(components * FEATURES);
  for (let s = 0; s < samples.length; s++) {
    const k = labels[s]!;
    totals[k]! += weights[s]!;
    for (let f = 0; f < FEATURES; f++) means[k * FEATURES + f]! += weights[s]! * features[FEATURES * samples[s]! + f]!;
  }
  for (let k = 0; k < components; k++) {
    if (totals[k]! < FEWEST_SAMPLES) continue;
    for (let f = 0; f < FEATURES; f++) centres[k * FEATURES + f] = means[k * FEATURES + f]! /= totals[k]!;
  }
  const spreads = new Float64Array(components * PARAMETERS);
  for (let s = 0; s < samples.length; s++) {
    const k = labels[s]!;
    let entry = k * PARAMETERS;
    for (let row = 0; row < FEATURES; row++) {
      const d = weights[s]! * (features[FEATURES * samples[s]! + row]! - means[k * FEATURES + row]!);
      for (let column = 0; column <= row; column++) {
        spreads[entry++]! += d * (features[FEATURES * samples[s]! + column]! - means[k * FEATURES + column]!);
      }
    }
  }
  const whitening = new Float64Array(components * PARAMETERS);
  const offsets = new Float64Array(components).fill(Infinity);
  const all = totals.reduce((a, b) => a + b, 0);
  for (let k = 0; k < components; k++) {
    if (totals[k]! < FEWEST_SAMPLES) continue;
    const spread = spreads.subarray(k * PARAMETERS, (k + 1) * PARAMETERS).map((value) => value / totals[k]!);
    const factor = inverseCholesky(spread);
    whitening.set(factor, k * PARAMETERS);
    let logVolume = 0;
    for (let row = 0; row < FEATURES; row++) logVolume -= Math.log(factor[diagonal(row)]!);
    offsets[k] = logVolume - Math.log(totals[k]! / all);
  }
  return { components, means, whitening, offsets };
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
