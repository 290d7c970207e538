import type { Kernels } from '../kernels/kernels.ts';
import { MAX_COMPONENTS } from './colourMixture.ts';
import { mixtureFor } from './fitMixture.ts';
import { describePixels, PLACE_WEIGHT, type SubjectScene } from './subjectScene.ts';
import { logDensities, shadedLogDensities } from './weighPixels.ts';

/** Where only colours count, before any subject is known, a place counts for this share of what it does later. */
const FIRST_PLACE_WEIGHT = 0.3;
/** Colours that the ring has less than this share of are strange to it, and so likely the subject's. */
const STRANGE_SHARE = 0.03;
/** What a ground in shadow is less likely than a ground in the light (natural logarithm), at first. */
const SHADE_PENALTY = 1.5;

/** How unlike the ring around a mark what lies in it is. */
export interface Strangeness {
  /** How likely each pixel's colour is on the ground, lit or in shadow (logarithm). */
  likelihood: Float32Array;
  /** The same in shadow only. */
  shaded: Float32Array;
  /** Likelihoods that a thirtieth, and half, of the ring itself fall short of. */
  low: number;
  usual: number;
}

/** Measures everything marked against the colours of the ring; undefined where there is no ring. */
export function strangeness(scene: SubjectScene, kernels: Kernels): Strangeness | undefined {
  const { width, height, ring, stride, picks } = scene;
  const n = width * height;
  const features = describePixels(scene, PLACE_WEIGHT * FIRST_PLACE_WEIGHT);
  const samples: number[] = [];
  for (let i = 0; i < n; i += stride) if (ring[i]) samples.push(i);
  if (samples.length < 10 * MAX_COMPONENTS) return undefined;
  const ground = mixtureFor(features, samples, kernels);
  const ofRing = new Float32Array(logDensities(ground, features, samples, kernels)).sort();
  const likelihood = new Float32Array(n);
  const shaded = new Float32Array(n);
  const inLight = logDensities(ground, features, picks, kernels);
  const inShade = shadedLogDensities(ground, features, picks, kernels);
  picks.forEach((i, k) => {
    shaded[i] = inShade[k]!;
    likelihood[i] = Math.max(inLight[k]!, shaded[i]! - SHADE_PENALTY);
  });
  return {
    likelihood,
    shaded,
    low: ofRing[Math.floor(STRANGE_SHARE * ofRing.length)]!,
    usual: ofRing[ofRing.length >> 1]!,
  };
}
