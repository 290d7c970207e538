import { componentCost, FEATURES, type ColourMixture } from './colourMixture.ts';

/** Shares of its light that a shadow leaves a ground; outside, it is no shadow. */
const DARKEST = 0.2;
const LIGHTEST = 0.97;
/** Light from the sky alone is bluer than the sun's: how much so, at full shadow. */
const BLUENESS = [0, 0.12, 0.25];

/**
 * The logarithm of how likely the pixel at `at` (luma, 1.2 (B - luma), 1.2 (R - luma), place; encoded levels) is one of
 * the ground in shadow: for each component of the ground, brightened to the component's luma, a little less blue or not.
 * -Infinity where it is brighter than all of them.
 */
export function shadedLogDensity(ground: ColourMixture, features: Float32Array, at: number): number {
  const luma = features[at]!;
  const blue = features[at + 1]! / 1.2 + luma;
  const red = features[at + 2]! / 1.2 + luma;
  const green = (luma - 0.299 * red - 0.114 * blue) / 0.587;
  relit[3] = features[at + 3]!;
  relit[4] = features[at + 4]!;
  let least = Infinity;
  for (let k = 0; k < ground.components; k++) {
    const share = luma / ground.means[k * FEATURES]!;
    if (!(share > DARKEST && share < LIGHTEST)) continue;
    for (const blueness of BLUENESS) {
      const b = (blue / share) * (1 - blueness * (1 - share));
      const r = (red / share) * (1 + 0.5 * blueness * (1 - share));
      const l = 0.299 * r + (0.587 * green) / share + 0.114 * b;
      relit[0] = l;
      relit[1] = 1.2 * (b - l);
      relit[2] = 1.2 * (r - l);
      least = Math.min(least, componentCost(ground, k, relit, 0));
    }
  }
  return -least;
}

const relit = new Float32Array(FEATURES);
