import type { Kernels } from '../kernels/kernels.ts';
import { emptyCorrespondence, type Correspondence } from './correspondence.ts';
import { PATCH_RADIUS, PATCH_SIDE, type Level } from './level.ts';
import type { Peel } from './peel.ts';

/** So many donors are tried one by one; of more, an even sample. */
const DONORS_TRIED = 4096;
/** Kernels want room for a mask of a whole patch for each target of a layer, and a number a row: 8 times 32 bytes. */
const MASK_BYTES = 32 * (PATCH_SIDE + 1);

/**
 * A first filling of the coarsest level, from the rim inward, layer by layer: each pixel of a layer is matched, on the
 * pixels known or filled before, against the donors of its neighbours' matches, an even sample of all donors and those
 * around the best; then the layer is the mean of what those donors bring along. Writes the hole's bytes in
 * `level.features` and returns the correspondence it found. Unlike a smooth membrane this starts from real texture
 * (A. Newson et al.: Video Inpainting of Complex Scenes, SIAM J. Imaging Sciences, 2014).
 */
export function peelHole(level: Level, kernels: Kernels): Correspondence {
  const { width, height, depth, holePixels } = level;
  const peel = startPeel(level, kernels);
  const order = kernels.scratch.ints(holePixels.length);
  order.set(holePixels.slice().sort((a, b) => depth[a]! - depth[b]! || a - b));
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
    kernels.average(level, peel, pixels);
    for (const pixel of pixels) peel.known[pixel] = 1;
    start = end;
  }
  matchLayer(level, peel, level.targets, kernels);
  kernels.measureCosts(level, peel.field);
  return peel.field;
}

/** Nothing matched yet, and only known what lies outside the hole. */
export function startPeel(level: Level, { scratch }: Kernels): Peel {
  const { hole, targets, donors } = level;
  const known = scratch.bytes(hole.length);
  for (let i = 0; i < known.length; i++) known[i] = hole[i] ? 0 : 1;
  return {
    field: emptyCorrespondence(level, scratch),
    known,
    matched: scratch.bytes(hole.length),
    stride: Math.ceil(donors.length / DONORS_TRIED),
    layer: scratch.ints(targets.length),
    found: scratch.ints(targets.length),
    masks: scratch.bytes(targets.length * MASK_BYTES),
    ...statisticsOf(level),
  };
}

function statisticsOf({ features, donors }: Level): Pick<Peel, 'mean' | 'variance'> {
  const sums = [0, 0, 0, 0];
  let squares = 0;
  for (const donor of donors) {
    for (let c = 0; c < 4; c++) {
      const value = features[4 * donor + c]!;
      sums[c]! += value;
      squares += value * value;
    }
  }
  const mean = sums.map((sum) => sum / donors.length);
  const variance = squares / donors.length - mean.reduce((sum, value) => sum + value * value, 0);
  return { mean: mean.map(Math.round), variance: Math.round(variance) };
}

/** Matches those of the targets that are not matched yet, each as if it were alone. */
export function matchLayer(level: Level, peel: Peel, targets: Iterable<number>, kernels: Kernels): void {
  let count = 0;
  for (const target of new Set(targets)) if (!peel.matched[target]) peel.layer[count++] = target;
  kernels.peel(level, peel, count);
  for (let k = 0; k < count; k++) {
    const target = peel.layer[k]!;
    peel.field.donor[target] = peel.found[k]!;
    peel.matched[target] = 1;
  }
}

/** The centre of the whole patch nearest to a pixel. */
export function clampToPatchCentre(pixel: number, width: number, height: number): number {
  const x = pixel % width;
  const y = (pixel - x) / width;
  const cx = Math.max(PATCH_RADIUS, Math.min(width - 1 - PATCH_RADIUS, x));
  const cy = Math.max(PATCH_RADIUS, Math.min(height - 1 - PATCH_RADIUS, y));
  return cy * width + cx;
}
