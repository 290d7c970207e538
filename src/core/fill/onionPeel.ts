import type { Kernels } from '../kernels/kernels.ts';
import { emptyCorrespondence, type Correspondence } from './correspondence.ts';
import { PATCH_RADIUS, PATCH_SIDE, type Level } from './level.ts';

/** So many donors are tried one by one; of more, an even sample. */
const DONORS_TRIED = 4096;
/** Kernels want room for a mask of a whole patch for each target of a layer: 7 rows of 32 bytes. */
const MASK_BYTES = 32 * PATCH_SIDE;

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
}

/**
 * A first filling of the coarsest level, from the rim inward, layer by layer: each pixel of a layer is matched, on the
 * pixels known or filled before, against the donors of its neighbours' matches, an even sample of all donors and those
 * around the best; then the layer is the mean of what those donors bring along. Writes the hole's bytes in
 * `level.features` and returns the correspondence it found. Unlike a smooth membrane this starts from real texture
 * (A. Newson et al.: Video Inpainting of Complex Scenes, SIAM J. Imaging Sciences, 2014).
 */
export function peelHole(level: Level, kernels: Kernels): Correspondence {
  const { width, height, depth, holePixels, targets } = level;
  const { scratch } = kernels;
  const field = emptyCorrespondence(level, scratch);
  const known = scratch.bytes(width * height);
  for (let i = 0; i < known.length; i++) known[i] = level.hole[i] ? 0 : 1;
  const peel: Peel = {
    field,
    known,
    matched: scratch.bytes(width * height),
    stride: Math.ceil(level.donors.length / DONORS_TRIED),
    layer: scratch.ints(targets.length),
    found: scratch.ints(targets.length),
    masks: scratch.bytes(targets.length * MASK_BYTES),
  };
  const order = holePixels.slice().sort((a, b) => depth[a]! - depth[b]! || a - b);
  for (let start = 0; start < order.length;) {
    let end = start;
    while (end < order.length && depth[order[end]!] === depth[order[start]!]) end++;
    const pixels = order.subarray(start, end);
    matchLayer(
      level,
      peel,
      Array.from(pixels, (pixel) => clampToPatchCentre(pixel, width, height)),
      kernels,
    );
    for (const pixel of pixels) averageFrom(level, peel, pixel);
    for (const pixel of pixels) known[pixel] = 1;
    start = end;
  }
  matchLayer(level, peel, targets, kernels);
  kernels.measureCosts(level, field);
  return field;
}

/** Matches those of the targets that are not matched yet, each as if it were alone. */
function matchLayer(level: Level, peel: Peel, targets: Iterable<number>, kernels: Kernels): void {
  let count = 0;
  for (const target of new Set(targets)) if (!peel.matched[target]) peel.layer[count++] = target;
  kernels.peel(level, peel, count);
  for (let k = 0; k < count; k++) {
    const target = peel.layer[k]!;
    peel.field.donor[target] = peel.found[k]!;
    peel.matched[target] = 1;
  }
}

function clampToPatchCentre(pixel: number, width: number, height: number): number {
  const x = pixel % width;
  const y = (pixel - x) / width;
  const cx = Math.max(PATCH_RADIUS, Math.min(width - 1 - PATCH_RADIUS, x));
  const cy = Math.max(PATCH_RADIUS, Math.min(height - 1 - PATCH_RADIUS, y));
  return cy * width + cx;
}

/** The window, in px to each side, around the best donor so far that is searched whole: three times, ever smaller. */
const REACHES = [3, 2, 1];

/**
 * Finds the donor that fits target `index` of the layer best on its known pixels. Ties go to the one tried first.
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
    let cost = 0;
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

function averageFrom(level: Level, { field, matched }: Peel, pixel: number): void {
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
