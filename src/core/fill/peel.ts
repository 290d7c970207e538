import type { Correspondence } from './correspondence.ts';
import { PATCH_RADIUS, type Level } from './level.ts';

/** The state of a peel: what is known so far, and which targets are matched. */
export interface Peel {
  field: Correspondence;
  known: Uint8Array;
  matched: Uint8Array;
  /** Every `stride`-th donor is tried. */
  stride: number;
  /** Target centres of the layer in work, and what has been found for them. */
  layer: Int32Array;
  found: Int32Array;
  masks: Uint8Array;
  /** The donors' mean features and their summed variances, whole numbers: kernels compare first what is unlike them. */
  mean: readonly number[];
  variance: number;
}

/** The window, in px to each side, around the best donor so far that is searched whole: three times, ever smaller. */
const REACHES = [3, 2, 1];

/**
 * Finds the donor that fits target `index` of the layer best on its known pixels, what it costs itself included. Ties go
 * to the one tried first.
 */
export function peelTarget(level: Level, peel: Peel, index: number): void {
  const { width, height, features, donors, isDonor } = level;
  const { known, matched, field, stride } = peel;
  const target = peel.layer[index]!;
  const offsets: number[] = [];
  for (let v = -PATCH_RADIUS; v <= PATCH_RADIUS; v++) {
    for (let u = -PATCH_RADIUS; u <= PATCH_RADIUS; u++) if (known[target + v * width + u]) offsets.push(v * width + u);
  }
  let best = donors[0]!;
  let bestCost = 2 ** 31 - 1;
  const attempt = (donor: number): void => {
    let cost = level.bias[donor]!;
    if (cost >= bestCost) return;
    for (const offset of offsets) {
      const i = (target + offset) * 4;
      const j = (donor + offset) * 4;
      for (let c = 0; c < 4; c++) cost += (features[i + c]! - features[j + c]!) ** 2;
      if (cost >= bestCost) return;
    }
    bestCost = cost;
    best = donor;
  };
  const attemptAllowed = (donor: number): void => {
    if (donor >= 0 && donor < width * height && isDonor[donor]) attempt(donor);
  };
  for (let v = -PATCH_RADIUS; v <= PATCH_RADIUS; v++) {
    for (let u = -PATCH_RADIUS; u <= PATCH_RADIUS; u++) {
      const neighbour = target + v * width + u;
      if (matched[neighbour]) attemptAllowed(field.donor[neighbour]! - v * width - u);
    }
  }
  for (let k = 0; k < donors.length; k += stride) attempt(donors[k]!);
  for (const reach of REACHES) {
    const centre = best;
    for (let v = -reach; v <= reach; v++) {
      for (let u = -reach; u <= reach; u++) attemptAllowed(centre + v * width + u);
    }
  }
  peel.found[index] = best;
}

/** Makes a pixel of the hole the mean of what the donors of the matches around bring along; of none, it stays as it is. */
export function averagePixel(level: Level, { field, matched }: Peel, pixel: number): void {
  const { width, height, features } = level;
  const x = pixel % width;
  const y = (pixel - x) / width;
  const sum = [0, 0, 0, 0];
  let total = 0;
  for (let v = Math.max(0, y - PATCH_RADIUS); v <= Math.min(height - 1, y + PATCH_RADIUS); v++) {
    for (let u = Math.max(0, x - PATCH_RADIUS); u <= Math.min(width - 1, x + PATCH_RADIUS); u++) {
      const centre = v * width + u;
      if (!matched[centre]) continue;
      const source = (field.donor[centre]! + pixel - centre) * 4;
      for (let c = 0; c < 4; c++) sum[c]! += features[source + c]!;
      total++;
    }
  }
  if (total) for (let c = 0; c < 4; c++) features[4 * pixel + c] = Math.round(sum[c]! / total);
}
