import type { Correspondence } from './correspondence.ts';
import { PATCH_RADIUS, type Level } from './level.ts';

/** How well the patches of a finished match fit, per feature byte. */
export interface MatchMeasures {
  /** Mean mismatch of patches across the rim. */
  rimCost: number;
  /** Mean mismatch inside the hole divided by the local texture: a blurred fill is cheap, a lively one is not. */
  relativeCost: number;
}

/** Texture is measured as if it had been weighted like this, so that takes of different weights can be compared. */
const COMMON_TEXTURE_WEIGHT = 5;
/** So many targets are looked at: every one, or an even sample. */
const TARGETS_LOOKED_AT = 6000;

/** Measures a match on its level, whose texture bytes were weighted with `textureWeight`. */
export function measureMatch(level: Level, field: Correspondence, textureWeight: number): MatchMeasures {
  const { targets, depth, hole, features } = level;
  const toCommon = COMMON_TEXTURE_WEIGHT / textureWeight;
  let rim = 0;
  let rimCount = 0;
  let relative = 0;
  let inside = 0;
  const stride = Math.ceil(targets.length / TARGETS_LOOKED_AT);
  for (let k = 0; k < targets.length; k += stride) {
    const target = targets[k]!;
    const isRim = depth[target]! <= 1;
    if (!isRim && !hole[target]) continue;
    const mismatch = Math.sqrt(commonCost(level, target, field.donor[target]!, toCommon * toCommon) / 196);
    if (isRim) {
      rim += mismatch;
      rimCount++;
    }
    if (hole[target]) {
      relative += mismatch / (toCommon * features[4 * target + 3]! + 4);
      inside++;
    }
  }
  return { rimCost: rim / Math.max(1, rimCount), relativeCost: relative / Math.max(1, inside) };
}

/** Measures of the parts of a hole together, weighted by their pixels. */
export function mergeMatchMeasures(parts: readonly { measures: MatchMeasures; pixels: number }[]): MatchMeasures {
  const all = parts.reduce((sum, { pixels }) => sum + pixels, 0);
  const mean = (key: keyof MatchMeasures): number =>
    parts.reduce((sum, { measures, pixels }) => sum + (measures[key] * pixels) / all, 0);
  return { rimCost: mean('rimCost'), relativeCost: mean('relativeCost') };
}

/** The patch cost with the squared differences of T multiplied by `textureScale`. */
function commonCost({ features, width }: Level, a: number, b: number, textureScale: number): number {
  let colour = 0;
  let texture = 0;
  for (let v = -PATCH_RADIUS; v <= PATCH_RADIUS; v++) {
    for (let u = -PATCH_RADIUS; u <= PATCH_RADIUS; u++) {
      const i = 4 * (a + v * width + u);
      const j = 4 * (b + v * width + u);
      colour +=
        (features[i]! - features[j]!) ** 2 +
        (features[i + 1]! - features[j + 1]!) ** 2 +
        (features[i + 2]! - features[j + 2]!) ** 2;
      texture += (features[i + 3]! - features[j + 3]!) ** 2;
    }
  }
  return colour + textureScale * texture;
}
