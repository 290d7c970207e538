import type { Correspondence } from './correspondence.ts';
import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import type { Level } from './level.ts';

/** Signs, found without knowing the truth, of how believable a fill is. All: lower is better. */
export interface FillMeasures {
  /** Octaves of fine texture missing against what the rim promises (mean over the hole). */
  textureDeficit: number;
  /** Mean patch cost of patches across the rim, per feature byte. */
  rimCost: number;
  /** Mean patch cost over the hole divided by the local texture. */
  relativeCost: number;
  /** The mix by which takes are ranked. */
  rank: number;
}

/**
 * Measures a finished fill on its finest level. The mean patch cost alone does not predict what people prefer, because
 * a blurred fill is cheap; what is missing in texture against the rim, and how well patches across the rim fit, do.
 */
export function measureFill(level: Level, field: Correspondence): FillMeasures {
  const expected = textureExpectedFromRim(level);
  let deficit = 0;
  let holePixels = 0;
  let rim = 0;
  let rimCount = 0;
  let relative = 0;
  let inside = 0;
  for (let i = 0; i < level.hole.length; i++) {
    if (!level.hole[i]) continue;
    deficit += Math.max(0, Math.log2((expected[i]! + 1) / (level.features[4 * i + 3]! + 1)));
    holePixels++;
  }
  for (const target of level.targets) {
    const cost = field.cost[target]! / 196;
    if (level.depth[target]! <= 1) {
      rim += Math.sqrt(cost);
      rimCount++;
    }
    if (level.hole[target]) {
      relative += Math.sqrt(cost) / (level.features[4 * target + 3]! + 4);
      inside++;
    }
  }
  const textureDeficit = deficit / Math.max(1, holePixels);
  const rimCost = rim / Math.max(1, rimCount);
  const relativeCost = relative / Math.max(1, inside);
  return { textureDeficit, rimCost, relativeCost, rank: textureDeficit + 0.08 * rimCost + 0.5 * relativeCost };
}

const SWEEPS = 60;

/** T as the rim lets expect it: harmonically interpolated into the hole. */
function textureExpectedFromRim({ width, height, hole, features }: Level): Float32Array {
  const values = Float32Array.from(hole, (_, i) => features[4 * i + 3]!);
  interpolateHarmonically(values, hole, width, height, SWEEPS);
  return values;
}
