import { FEATURES, logDensity, mixtureFor, MOST_COMPONENTS } from './colourMixture.ts';
import { shadedLogDensity } from './shadedGround.ts';
import { describePixels, PLACE_WEIGHT, type SubjectScene } from './subjectScene.ts';

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
export function strangeness(scene: SubjectScene): Strangeness | undefined {
  const { width, height, marked, ring, stride } = scene;
  const n = width * height;
  const features = describePixels(scene, PLACE_WEIGHT * FIRST_PLACE_WEIGHT);
  const samples: number[] = [];
  for (let i = 0; i < n; i += stride) if (ring[i]) samples.push(i);
  if (samples.length < 10 * MOST_COMPONENTS) return undefined;
  const ground = mixtureFor(features, samples);
  const ofRing = Float32Array.from(samples, (i) => logDensity(ground, features, FEATURES * i)).sort();
  const likelihood = new Float32Array(n);
  const shaded = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    if (marked[i]! < 0.5) continue;
    shaded[i] = shadedLogDensity(ground, features, FEATURES * i);
    likelihood[i] = Math.max(logDensity(ground, features, FEATURES * i), shaded[i]! - SHADE_PENALTY);
  }
  return {
    likelihood,
    shaded,
    low: ofRing[Math.floor(STRANGE_SHARE * ofRing.length)]!,
    usual: ofRing[ofRing.length >> 1]!,
  };
}
