import { randomCorrespondence } from '../fill/correspondence.ts';
import { indexLevel, PATCH_RADIUS, PATCH_SIDE } from '../fill/level.ts';
import { lumaAt } from '../image/luma.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { createRandom } from '../numeric/random.ts';
import type { SmallImage } from '../mask/reduceMarked.ts';

/** Levels a pixel differs by where its light, or one channel against another, is e times as much. */
const LEVELS = 100;
/** Keeps the noise of dark pixels from counting as colour, in levels of the photo. */
const DARKNESS = 6;
/** Patches whose pixels differ from their mean by less (squared levels) are plain: what matches them tells nothing. */
const LIVELY = 40;
const ROUNDS = 4;
const SEED = 5;

/**
 * How much of what changes around each marked pixel is found again in the `ring` (1 a pixel) around the mark: 1 = it
 * holds a patch just like this one, 0 = none that is nearer than a plain one, -1 = farther still; 0 also where the patch
 * is plain, and outside the mark. Light does not count: patches are compared by the ratios of their channels and by
 * luma against that around, so that bricks in shadow are found among bricks in the sun. Nearest patches are looked for
 * as in C. Barnes et al.: PatchMatch, SIGGRAPH, 2009.
 */
export function explainedByRing(image: SmallImage, ring: Uint8Array, kernels: Kernels): Float32Array {
  const { width, height, marked } = image;
  const explained = new Float32Array(width * height);
  kernels.reset();
  const planes = lightFreePlanes(image, kernels);
  const { scratch } = kernels;
  const features = scratch.bytes(4 * width * height);
  for (let c = 0; c < planes.length; c++) {
    const plane = planes[c]!;
    for (let i = 0; i < plane.length; i++) features[4 * i + c] = Math.round(128 + plane[i]!);
  }
  const hole = Uint8Array.from(marked, (share) => (share >= 0.5 ? 1 : 0));
  const level = indexLevel({ width, height, features, hole, usable: ring }, 0, scratch);
  if (level.donors.length === 0) return explained;
  const field = randomCorrespondence(level, createRandom(SEED), scratch);
  kernels.measureCosts(level, field);
  const reach = Math.max(width, height) >> 1;
  for (let pass = 0; pass < 2 * ROUNDS; pass++) {
    kernels.search(level, field, { reach, seed: SEED, pass, step: pass % 2 === 0 ? 1 : -1 });
  }
  const variance = patchVariance(planes, width, height, kernels);
  for (const target of level.targets) {
    if (!hole[target] || variance[target]! < LIVELY) continue;
    explained[target] = Math.max(-1, 1 - field.cost[target]! / (PATCH_SIDE ** 2 * variance[target]!));
  }
  return explained;
}

/** Logarithms of luma against the mean of the patch around, and of red and blue against green; all within +-127. */
function lightFreePlanes({ width, height, colour }: SmallImage, kernels: Kernels): Float32Array<ArrayBuffer>[] {
  const n = width * height;
  const [luma, red, blue] = [new Float32Array(n), new Float32Array(n), new Float32Array(n)];
  const log = (level: number): number => Math.log(level + DARKNESS);
  for (let i = 0; i < n; i++) {
    const green = log(colour[3 * i + 1]!);
    luma[i] = LEVELS * log(lumaAt(colour, 3 * i));
    red[i] = within(LEVELS * (log(colour[3 * i]!) - green));
    blue[i] = within(LEVELS * (log(colour[3 * i + 2]!) - green));
  }
  const around = kernels.blur(luma, width, height, PATCH_RADIUS, 1);
  for (let i = 0; i < n; i++) luma[i] = within(luma[i]! - around[i]!);
  return [luma, red, blue];
}

const within = (value: number): number => Math.max(-127, Math.min(127, value));

/** The mean squared distance of a patch's pixels from their mean, for every patch. */
function patchVariance(
  planes: Float32Array<ArrayBuffer>[],
  width: number,
  height: number,
  kernels: Kernels,
): Float32Array {
  const variance = new Float32Array(width * height);
  const mean = (plane: Float32Array<ArrayBuffer>) => kernels.blur(plane, width, height, PATCH_RADIUS, 1);
  for (const plane of planes) {
    const square = new Float32Array(plane.length);
    for (let i = 0; i < plane.length; i++) square[i] = plane[i]! * plane[i]!;
    const [ofSquares, of] = [mean(square), mean(plane)];
    for (let i = 0; i < variance.length; i++) variance[i]! += Math.max(0, ofSquares[i]! - of[i]! * of[i]!);
  }
  return variance;
}
