/** Numbers a pixel is described by: luma, two colour differences, and its place (see `describePixels`). */
export const FEATURES = 5;
/** Numbers in the lower triangle of a covariance. */
export const PARAMETERS = (FEATURES * (FEATURES + 1)) / 2;
/** Components with less weight of samples are none. */
export const FEWEST_SAMPLES = 5;

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

/** Where logarithms of densities are weighed against each other, no pixel counts as less likely. */
export const LOWEST_DENSITY = -16;
/** Components of a subject's or a ground's mixture. */
export const MAX_COMPONENTS = 8;

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
