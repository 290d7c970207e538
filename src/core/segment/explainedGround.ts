import { emptyCorrespondence, randomCorrespondence, type Correspondence } from '../fill/correspondence.ts';
import { indexLevel, PATCH_RADIUS, PATCH_SIDE, type Level, type LevelPixels } from '../fill/level.ts';
import { lumaAt } from '../image/luma.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { createRandom } from '../numeric/random.ts';
import type { SmallImage } from '../mask/reduceMarked.ts';
import { bytesBy } from '../numeric/filled.ts';

/** Levels a pixel differs by where its light, or one channel against another, is e times as much. */
const LEVELS = 100;
/** Keeps the noise of dark pixels from counting as colour, in levels of the photo. */
const DARKNESS = 6;
/** Patches whose pixels differ from their mean by less (squared levels) are plain: what matches them tells nothing. */
const LIVELY = 40;
const PATCH_PIXELS = PATCH_SIDE ** 2;
const PASSES = 8;
const SEED = 4;
/** What the ring explains of a patch by more than this share speaks for ground, so much for all of it. */
const EXPLAINED = 0.35;
const TRUST_IN_SHARE = 10;
/** Side, in px, of the squares by which the ring is parted to be compared with itself. */
const SQUARE = 24;
/** Squared differences of a pixel's features that noise alone makes. */
const NOISE = 20;
/** How far, in px, around a patch others are averaged with it before the ring's own are compared. */
const AVERAGED = 2;
/** A patch matched worse than the ring's own by less than this (natural logarithm) speaks for ground, so much each unit, */
const AS_WELL = 0.9;
const TRUST_IN_LIKENESS = 2;
/** if the ring explains its own by more than this share; by so much more, wholly. */
const MIN_OF_ITSELF = 0.2;
const SPREAD_OF_ITSELF = 0.2;

/**
 * How much speaks for each marked pixel being ground (natural logarithm of a likelihood ratio, 0 or more), by what of the
 * change around it is found again in the `ring` (1 a pixel) around the mark; 0 also where the patch is plain, and outside
 * the mark. It counts what share of a patch's change the nearest one explains, and how well it does so beside how well
 * the ring explains that one itself: of stones that are each their own, a share is never large (M. Breunig et al.: LOF,
 * SIGMOD, 2000). Light does not count: patches are compared by the ratios of their channels and by luma against that
 * around, so that bricks in shadow are found among bricks in the sun. Nearest patches are looked for as in C. Barnes et
 * al.: PatchMatch, SIGGRAPH, 2009.
 */
export function explainedByRing(image: SmallImage, ring: Uint8Array, kernels: Kernels): Float32Array {
  const { width, height, marked } = image;
  const n = width * height;
  const evidence = new Float32Array(n);
  kernels.reset();
  const planes = lightFreePlanes(image, kernels);
  const features = kernels.scratch.bytes(4 * n);
  for (let c = 0; c < planes.length; c++) {
    const plane = planes[c]!;
    for (let i = 0; i < n; i++) features[4 * i + c] = Math.round(128 + plane[i]!);
  }
  const nearest = (targets: Uint8Array, usable: Uint8Array) =>
    nearestPatches({ width, height, features, hole: targets, usable }, kernels);
  const hole = bytesBy(marked.length, (i) => (marked[i]! >= 0.5 ? 1 : 0));
  const { level, field } = nearest(hole, ring);
  if (level.donors.length === 0) return evidence;
  const variance = patchVariance(planes, width, height, kernels);
  const lively = level.targets.filter((target) => hole[target] && variance[target]! >= LIVELY);
  const donors = new Uint8Array(n);
  for (const target of lively) donors[field.donor[target]!] = 1;
  const own = costsAmongThemselves(donors, ring, width, nearest);
  const [costs, owns, variances] = [new Float32Array(n), new Float32Array(n), new Float32Array(n)];
  for (const target of lively) {
    const donor = field.donor[target]!;
    const explained = 1 - field.cost[target]! / (PATCH_PIXELS * variance[target]!);
    evidence[target] = TRUST_IN_SHARE * Math.max(0, explained - EXPLAINED);
    if (own[donor]! < 0) continue;
    costs[target] = field.cost[target]! + PATCH_PIXELS * NOISE;
    owns[target] = own[donor]! + PATCH_PIXELS * NOISE;
    variances[target] = PATCH_PIXELS * variance[donor]!;
  }
  const around = (plane: Float32Array<ArrayBuffer>) => kernels.blur(plane, width, height, AVERAGED, 1);
  const [cost, itsOwn, change] = [around(costs), around(owns), around(variances)];
  for (const target of lively) {
    if (!(itsOwn[target]! > 0)) continue;
    const explained = 1 - itsOwn[target]! / Math.max(1, change[target]!);
    const telling = Math.max(0, Math.min(1, (explained - MIN_OF_ITSELF) / SPREAD_OF_ITSELF));
    const worse = Math.log(cost[target]! / itsOwn[target]!);
    evidence[target]! += TRUST_IN_LIKENESS * telling * Math.max(0, AS_WELL - worse);
  }
  return evidence;
}

interface Matched {
  level: Level;
  field: Correspondence;
}

/** The nearest patch of usable pixels for each that touches the hole; no donors where there are none. */
function nearestPatches(pixels: LevelPixels, kernels: Kernels): Matched {
  const { scratch } = kernels;
  const level = indexLevel(pixels, 0, scratch);
  if (level.donors.length === 0) return { level, field: emptyCorrespondence(level, scratch) };
  const field = randomCorrespondence(level, createRandom(SEED), scratch);
  kernels.measureCosts(level, field);
  const reach = Math.max(pixels.width, pixels.height) >> 1;
  for (let pass = 0; pass < PASSES; pass++) {
    kernels.search(level, field, { reach, seed: SEED, pass, step: pass % 2 === 0 ? 1 : -1 });
  }
  return { level, field };
}

/**
 * What the nearest other patch of the ring costs each of these of its patches (1 at their centres); -1 where there is
 * none, and elsewhere. Others are those in the squares of a chequerboard beside a patch's own, as the nearest ones of all
 * lie just beside it.
 */
function costsAmongThemselves(
  patches: Uint8Array,
  ring: Uint8Array,
  width: number,
  nearest: (targets: Uint8Array, usable: Uint8Array) => Matched,
): Int32Array {
  const costs = new Int32Array(patches.length).fill(-1);
  for (const colour of [0, 1]) {
    const [targets, usable] = [new Uint8Array(ring.length), new Uint8Array(ring.length)];
    for (let i = 0; i < ring.length; i++) {
      if (!ring[i]) continue;
      const x = i % width;
      const square = Math.floor(x / SQUARE) + Math.floor((i - x) / width / SQUARE);
      if (square % 2 === colour) targets[i] = patches[i]!;
      else usable[i] = 1;
    }
    const { level, field } = nearest(targets, usable);
    if (level.donors.length === 0) continue;
    for (const target of level.targets) if (targets[target]) costs[target] = field.cost[target]!;
  }
  return costs;
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
