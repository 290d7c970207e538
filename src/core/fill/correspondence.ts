import { BAND_ROWS, bandCount } from '../kernels/bands.ts';
import type { Scratch } from '../kernels/scratch.ts';
import { nextRandom, startRandom, type RandomStream } from '../numeric/random.ts';
import type { Level } from './level.ts';
import { patchCost } from './patchCost.ts';

/** For each target centre the donor centre it is rebuilt from, and at what cost; other entries are meaningless. */
export interface Correspondence {
  donor: Int32Array;
  cost: Int32Array;
}

/** One pass of the correspondence search. */
export interface SearchPass {
  /** Half the side, in px, of the first window in which donors are drawn; it halves from there to 1. */
  reach: number;
  seed: number;
  /** Counts the passes of a fill: every pass draws other numbers. */
  pass: number;
  /** 1: right and down; -1: left and up. */
  step: 1 | -1;
}

/** Every target joined to a donor drawn at random. Costs are left to `measureCosts`. */
export function randomCorrespondence(level: Level, random: RandomStream, scratch: Scratch): Correspondence {
  const field = emptyCorrespondence(level, scratch);
  for (const target of level.targets) field.donor[target] = level.donors[random.below(level.donors.length)]!;
  return field;
}

export const emptyCorrespondence = (level: Level, scratch: Scratch): Correspondence => ({
  donor: scratch.ints(level.width * level.height),
  cost: scratch.ints(level.width * level.height),
});

/** What a donor costs beyond the difference of the patches: the level's bias there, and its distance in height. */
const extraCost = (level: Level, target: number, donor: number): number =>
  level.bias[donor]! +
  Math.min(
    level.mostForHeight,
    level.heightWeight * Math.abs(Math.floor(donor / level.width) - Math.floor(target / level.width)),
  );

/** Measures a band's costs anew: after a vote the pixels that patches are compared on have changed. */
export function costBand(level: Level, field: Correspondence, band: number): void {
  const firstRow = band * BAND_ROWS;
  const to = level.rowStarts[Math.min(level.height, firstRow + BAND_ROWS)]!;
  for (let k = level.rowStarts[firstRow]!; k < to; k++) {
    const target = level.targets[k]!;
    const donor = field.donor[target]!;
    field.cost[target] =
      extraCost(level, target, donor) + patchCost(level.features, level.width, target, donor, Infinity);
  }
}

/** Where the bands of a pass begin and how many there are, and what lies before each. */
export interface SearchBands {
  /** The first row of the first band, 0 or less: every second round bands begin half a band higher. */
  top: number;
  count: number;
  /** For each band the donors, as they were, of the row that the search comes from. */
  before: Int32Array;
}

/** The bands of a pass. None of them sees what another one finds, so that they can be searched beside each other. */
export function searchBands(
  { width, height }: Level,
  { donor }: Correspondence,
  { pass, step }: SearchPass,
  scratch: Scratch,
): SearchBands {
  const top = pass & 2 ? -BAND_ROWS / 2 : 0;
  const count = bandCount(height - top, BAND_ROWS);
  const before = scratch.ints(width * count);
  for (let band = 0; band < count; band++) {
    const row = step === 1 ? top + band * BAND_ROWS - 1 : top + (band + 1) * BAND_ROWS;
    if (row >= 0 && row < height) before.set(donor.subarray(row * width, (row + 1) * width), band * width);
  }
  return { top, count, before };
}

/**
 * One pass of the approximate nearest-neighbour search over a band of rows, in place. Each target tries its two
 * visited neighbours' offsets (beyond the band, as they were before), donors at random within a window that halves from
 * `reach` to 1, and one donor drawn from all; a candidate costs the sum of squared differences of both patches plus the
 * level's bias at the donor plus `heightWeight` a row between the two, up to `mostForHeight`. The numbers drawn depend on
 * seed, pass and target alone.
 * C. Barnes et al.: PatchMatch, SIGGRAPH, 2009.
 */
export function searchBand(
  level: Level,
  field: Correspondence,
  pass: SearchPass,
  { top, before }: SearchBands,
  band: number,
): void {
  const { width, height, features, targets, isTarget, isDonor, donors, rowStarts } = level;
  const { donor, cost } = field;
  const { step } = pass;
  const first = Math.max(0, top + band * BAND_ROWS);
  const end = Math.min(height, top + (band + 1) * BAND_ROWS);
  const from = rowStarts[first]!;
  const to = rowStarts[end]!;
  const entered = step === 1 ? first : end - 1;
  for (let k = 0; k < to - from; k++) {
    const target = targets[step === 1 ? from + k : to - 1 - k]!;
    const column = target % width;
    let best = donor[target]!;
    let bestCost = cost[target]!;
    const attempt = (candidate: number): void => {
      const extra = extraCost(level, target, candidate);
      if (extra >= bestCost) return;
      const c = extra + patchCost(features, width, target, candidate, bestCost - extra);
      if (c < bestCost) {
        bestCost = c;
        best = candidate;
      }
    };
    const isFirstRow = target - column === entered * width;
    for (const shift of [step, step * width]) {
      const neighbour = target - shift;
      if (!isTarget[neighbour]) continue;
      const isBefore = isFirstRow && shift !== step;
      const candidate = (isBefore ? before[band * width + column]! : donor[neighbour]!) + shift;
      if (candidate !== best && isDonor[candidate]) attempt(candidate);
    }
    let random = startRandom(pass.seed, pass.pass, target);
    const x = best % width;
    const y = (best - x) / width;
    for (let reach = pass.reach; reach >= 1; reach >>= 1) {
      random = nextRandom(random);
      const u = x + ((random >>> 0) % (2 * reach + 1)) - reach;
      random = nextRandom(random);
      const v = y + ((random >>> 0) % (2 * reach + 1)) - reach;
      if (u < 0 || v < 0 || u >= width || v >= height) continue;
      if (isDonor[v * width + u]) attempt(v * width + u);
    }
    random = nextRandom(random);
    attempt(donors[(random >>> 0) % donors.length]!);
    donor[target] = best;
    cost[target] = bestCost;
  }
}

/**
 * The field of the next finer level: each target takes twice its parent's offset; where that donor is not allowed,
 * the nearest allowed one within 8 px, else one at random. Costs are left to `measureCosts`.
 */
export function refineCorrespondence(
  coarse: Level,
  field: Correspondence,
  fine: Level,
  random: RandomStream,
  scratch: Scratch,
): Correspondence {
  const out = emptyCorrespondence(fine, scratch);
  for (const target of fine.targets) {
    const x = target % fine.width;
    const y = (target - x) / fine.width;
    const parent = nearestTarget(coarse, x >> 1, y >> 1);
    const px = parent % coarse.width;
    const py = (parent - px) / coarse.width;
    const donor = field.donor[parent]!;
    const dx = donor % coarse.width;
    const u = x + 2 * (dx - px);
    const v = y + 2 * ((donor - dx) / coarse.width - py);
    out.donor[target] = nearestDonor(fine, u, v) ?? fine.donors[random.below(fine.donors.length)]!;
  }
  return out;
}

/** The parent itself, or (at the border, where whole patches end earlier on the coarse level) the target nearest it. */
function nearestTarget(level: Level, x: number, y: number): number {
  for (let radius = 0; radius < 8; radius++) {
    const found = firstInRing(level, level.isTarget, x, y, radius);
    if (found !== undefined) return found;
  }
  return level.targets[0]!;
}

function nearestDonor(level: Level, x: number, y: number): number | undefined {
  for (let radius = 0; radius <= 8; radius++) {
    const found = firstInRing(level, level.isDonor, x, y, radius);
    if (found !== undefined) return found;
  }
  return undefined;
}

function firstInRing(level: Level, set: Uint8Array, x: number, y: number, radius: number): number | undefined {
  for (let v = y - radius; v <= y + radius; v++) {
    if (v < 0 || v >= level.height) continue;
    const onRim = v === y - radius || v === y + radius;
    for (let u = x - radius; u <= x + radius; u += onRim || radius === 0 ? 1 : 2 * radius) {
      if (u >= 0 && u < level.width && set[v * level.width + u]) return v * level.width + u;
    }
  }
  return undefined;
}
