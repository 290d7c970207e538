import { BAND_PIXELS } from '../kernels/bands.ts';
import type { Scratch } from '../kernels/scratch.ts';
import {
  componentCost,
  FEATURES,
  FEWEST_SAMPLES,
  likeliest,
  logDensity,
  PARAMETERS,
  type ColourMixture,
} from './colourMixture.ts';
import { shadedLogDensity } from './shadedGround.ts';

/** Picked pixels weighed by a mixture, or summed up to one. All arrays come from a kernel's scratch. */
export interface MixtureWork extends ColourMixture {
  /** FEATURES numbers a pixel. */
  features: Float32Array;
  /** The pixels meant. */
  picks: Int32Array;
  /** What each pick counts, its component, and what was found about it. */
  weights: Float32Array;
  labels: Int32Array;
  values: Float64Array;
  /** Weights a component, and PARAMETERS numbers a component: products of distances from the mean, summed. */
  totals: Float64Array;
  spreads: Float64Array;
}

/** Room for work on picked pixels of `features` and a mixture of so many components, yet to be set. */
export function mixtureWork(
  features: Float32Array,
  picks: ArrayLike<number>,
  components: number,
  scratch: Scratch,
): MixtureWork {
  const work = {
    components,
    features: scratch.floats(features.length),
    picks: scratch.ints(picks.length),
    weights: scratch.floats(picks.length),
    labels: scratch.ints(picks.length),
    values: scratch.doubles(picks.length),
    means: scratch.doubles(FEATURES * components),
    whitening: scratch.doubles(PARAMETERS * components),
    offsets: scratch.doubles(components),
    totals: scratch.doubles(components),
    spreads: scratch.doubles(PARAMETERS * components),
  };
  work.features.set(features);
  work.picks.set(picks);
  return work;
}

function overBand({ picks }: MixtureWork, band: number, body: (k: number, at: number) => void): void {
  const end = Math.min(picks.length, (band + 1) * BAND_PIXELS);
  for (let k = band * BAND_PIXELS; k < end; k++) body(k, FEATURES * picks[k]!);
}

/** `values` of a band: the logarithm of the mixture's density. */
export function densityBand(work: MixtureWork, band: number): void {
  overBand(work, band, (k, at) => (work.values[k] = logDensity(work, work.features, at)));
}

/** `values` of a band: the logarithm of the density in shadow, see `shadedLogDensity`. */
export function shadeBand(work: MixtureWork, band: number): void {
  overBand(work, band, (k, at) => (work.values[k] = shadedLogDensity(work, work.features, at)));
}

/** `labels` of a band, the likeliest component of each pick, and as `values` what it costs there. */
export function labelBand(work: MixtureWork, band: number): void {
  overBand(work, band, (k, at) => {
    const label = likeliest(work, work.features, at);
    work.labels[k] = label;
    work.values[k] = componentCost(work, label, work.features, at);
  });
}

/** `totals`, `means` and `spreads` of labelled picks; the means of components that have too few stay sums. */
export function gatherMoments(work: MixtureWork): void {
  const { features, picks, weights, labels, totals, means, spreads, components } = work;
  for (const sums of [totals, means, spreads]) sums.fill(0);
  for (let s = 0; s < picks.length; s++) {
    const k = labels[s]!;
    totals[k]! += weights[s]!;
    for (let f = 0; f < FEATURES; f++) means[k * FEATURES + f]! += weights[s]! * features[FEATURES * picks[s]! + f]!;
  }
  for (let k = 0; k < components; k++) {
    if (totals[k]! < FEWEST_SAMPLES) continue;
    for (let f = 0; f < FEATURES; f++) means[k * FEATURES + f]! /= totals[k]!;
  }
  for (let s = 0; s < picks.length; s++) {
    const k = labels[s]!;
    let entry = k * PARAMETERS;
    for (let row = 0; row < FEATURES; row++) {
      const d = weights[s]! * (features[FEATURES * picks[s]! + row]! - means[k * FEATURES + row]!);
      for (let column = 0; column <= row; column++) {
        spreads[entry++]! += d * (features[FEATURES * picks[s]! + column]! - means[k * FEATURES + column]!);
      }
    }
  }
}
