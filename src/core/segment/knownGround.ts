import type { Kernels } from '../kernels/kernels.ts';
import { FEATURES, LOWEST_DENSITY } from './colourMixture.ts';
import { mixtureFor } from './fitMixture.ts';
import type { SubjectScene } from './subjectScene.ts';
import { likeliestComponents, logDensities } from './weighPixels.ts';

/** Levels a unit of natural logarithm; how light a pixel is counts for this share of a ratio of channels. */
const LEVELS = 100;
const LIGHT_SHARE = 0.3;
/** Added to channels before a logarithm is taken, so that noise in the dark counts for little. */
const DARKNESS = 8;
/** Ground is in shadow where it is darker than the ring's usual by more than this (natural logarithm of green). */
const SHADE = 0.5;
const FOUND_KINDS = 8;
const SHADED_KINDS = 12;
const STROKED_COMPONENTS = 2;
const SAMPLES = 4000;
/** A kind with fewer samples tells nothing. */
const FEWEST = 40;
/** All but this share of a kind's samples must be likelier in it than in what was found, */
const UNLIKE_SHARE = 0.2;
/** by more than so much (natural logarithm) to be believed at all, and by one more to be believed wholly. */
const MIN_DIFFERENCE = { shaded: 0, stroked: 1 };
const SMALLEST_SPREAD = 0.5;
/** What it counts that a pixel surely is of a known ground (natural logarithm of a likelihood ratio). */
const TRUST = 6;

/** Of each of some pixels the kind it likeliest is of, and how likely it is of that. */
type Kinds = (picks: ArrayLike<number>) => { labels: Int32Array; densities: Float64Array };

/** From which ratio of likelihoods on pixels are of a kind of ground, how gradually, and how far that is believed. */
interface Limit {
  least: number;
  spread: number;
  trust: number;
}

/**
 * What speaks against marked pixels of what was found (above 0.5) being subject, as evidence for `segmentScene` (0, or
 * less): that they look like a ground which is known, wherever that lies, and not like the rest of what was found. Known
 * are the ring's parts in shadow, each kind of colours by itself, and what strokes say is ground. Colours are compared by
 * the ratios of their channels, which tell shaded stone from shaded wood where levels don't. A ground that can't be told
 * from the thing says nothing.
 */
export function unlikeTheRest(scene: SubjectScene, found: Float32Array, kernels: Kernels): Float32Array {
  const { width, height, marked, picks, ring, said } = scene;
  const n = width * height;
  const evidence = new Float32Array(n);
  const features = describeRatios(scene);
  const lightness = (i: number): number => features[FEATURES * i + 2]!;
  const [around, stroked, rest]: [number[], number[], number[]] = [[], [], []];
  for (let i = 0; i < n; i++) {
    if (said[i] === 2) stroked.push(i);
    else if (ring[i]) around.push(i);
    else if (marked[i]! >= 0.5 && found[i]! > 0.5) rest.push(i);
  }
  const usual = around.map(lightness).sort((a, b) => a - b)[around.length >> 1]!;
  const shaded = thinned(around.filter((i) => lightness(i) < usual - LEVELS * LIGHT_SHARE * SHADE));
  if (rest.length < FEWEST || Math.max(shaded.length, stroked.length) < FEWEST) return evidence;
  const restModel = mixtureFor(features, thinned(rest), kernels, { components: FOUND_KINDS });
  const kindsAndRatios = (of: ArrayLike<number>, kinds: Kinds): { labels: Int32Array; ratios: Float64Array } => {
    const { labels, densities } = kinds(of);
    const asRest = logDensities(restModel, features, of, kernels);
    const ratios = densities.map((density, k) => density - Math.max(2 * LOWEST_DENSITY, asRest[k]!));
    return { labels, ratios };
  };
  const tell = (samples: number[], kinds: Kinds, leastDifference: number): void => {
    const own = kindsAndRatios(samples, kinds);
    const ofKind: number[][] = [];
    own.labels.forEach((kind, k) => (ofKind[kind] ??= []).push(own.ratios[k]!));
    const limits = ofKind.map((ratios) => limitOf(ratios, leastDifference));
    if (!limits.some((limit) => limit)) return;
    const { labels, ratios } = kindsAndRatios(picks, kinds);
    picks.forEach((i, k) => {
      const limit = limits[labels[k]!];
      if (!limit) return;
      const sure = Math.max(0, Math.min(1, (ratios[k]! - limit.least) / limit.spread + 0.5));
      evidence[i] = Math.min(evidence[i]!, -TRUST * limit.trust * sure);
    });
  };
  if (shaded.length >= FEWEST) {
    const model = mixtureFor(features, shaded, kernels, { components: SHADED_KINDS });
    tell(shaded, (of) => likeliestComponents(model, features, of, kernels), MIN_DIFFERENCE.shaded);
  }
  if (stroked.length >= FEWEST) {
    const samples = thinned(stroked);
    const model = mixtureFor(features, samples, kernels, { components: STROKED_COMPONENTS });
    const alike: Kinds = (of) => ({
      labels: new Int32Array(of.length),
      densities: logDensities(model, features, of, kernels),
    });
    tell(samples, alike, MIN_DIFFERENCE.stroked);
  }
  return evidence;
}

/** The limit for a kind whose own samples have these ratios; undefined where it can't be told from the rest. */
function limitOf(ratios: number[], leastDifference: number): Limit | undefined {
  if (ratios.length < FEWEST) return undefined;
  ratios.sort((a, b) => a - b);
  const least = ratios[Math.floor(UNLIKE_SHARE * ratios.length)]!;
  if (least <= leastDifference) return undefined;
  return {
    least,
    spread: Math.max(SMALLEST_SPREAD, ratios[ratios.length >> 1]! - least),
    trust: Math.min(1, least - leastDifference),
  };
}

function thinned(samples: number[]): number[] {
  const stride = Math.max(1, Math.round(samples.length / SAMPLES));
  return samples.filter((_, k) => k % stride === 0);
}

/** Red and blue against green, and green itself, as logarithms; the place does not count. */
function describeRatios({ width, height, colour }: SubjectScene): Float32Array {
  const features = new Float32Array(FEATURES * width * height);
  const log = (level: number): number => LEVELS * Math.log(level + DARKNESS);
  for (let i = 0; i < width * height; i++) {
    const green = log(colour[3 * i + 1]!);
    features.set([log(colour[3 * i]!) - green, log(colour[3 * i + 2]!) - green, LIGHT_SHARE * green], FEATURES * i);
  }
  return features;
}
