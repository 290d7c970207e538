import type { Correspondence } from './correspondence.ts';
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

/** Harmonic interpolation of T from the rim into the hole, by over-relaxation. */
function textureExpectedFromRim(level: Level): Float32Array {
  const { width, height, hole, features } = level;
  const value = new Float32Array(hole.length);
  const inside: number[] = [];
  let mean = 0;
  for (let i = 0; i < hole.length; i++) {
    value[i] = features[4 * i + 3]!;
    if (hole[i]) inside.push(i);
    else mean += value[i]!;
  }
  mean /= Math.max(1, hole.length - inside.length);
  for (const i of inside) value[i] = mean;
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    for (const i of inside) {
      const x = i % width;
      let sum = 0;
      let count = 0;
      if (x > 0) (sum += value[i - 1]!), count++;
      if (x + 1 < width) (sum += value[i + 1]!), count++;
      if (i >= width) (sum += value[i - width]!), count++;
      if (i + width < width * height) (sum += value[i + width]!), count++;
      value[i]! += 1.8 * (sum / count - value[i]!);
    }
  }
  return value;
}
