import type { RandomStream } from '../numeric/random.ts';
import type { Level } from './level.ts';
import { patchCost } from './patchCost.ts';

/** For each target centre the donor centre it is rebuilt from, and at what cost; other entries are meaningless. */
export interface Correspondence {
  donor: Int32Array;
  cost: Int32Array;
}

/** Every target joined to a donor drawn at random. */
export function randomCorrespondence(level: Level, random: RandomStream): Correspondence {
  const field = emptyCorrespondence(level);
  for (const target of level.targets) field.donor[target] = level.donors[random.below(level.donors.length)]!;
  refreshCosts(level, field);
  return field;
}

export const emptyCorrespondence = (level: Level): Correspondence => ({
  donor: new Int32Array(level.width * level.height),
  cost: new Int32Array(level.width * level.height),
});

/** Measures every target's cost anew: after a vote the pixels that patches are compared on have changed. */
export function refreshCosts(level: Level, field: Correspondence): void {
  for (const target of level.targets) {
    field.cost[target] = patchCost(level.features, level.width, target, field.donor[target]!, Infinity);
  }
}

/**
 * One round of the approximate nearest-neighbour search, in place: a pass right and down, then a pass left and up.
 * Each target tries its two visited neighbours' offsets, donors at random within a window that halves from
 * `reachPx` to 1, and one donor drawn from all. C. Barnes et al.: PatchMatch, SIGGRAPH, 2009.
 */
export function searchRound(level: Level, field: Correspondence, reachPx: number, random: RandomStream): void {
  searchPass(level, field, reachPx, random, 1);
  searchPass(level, field, reachPx, random, -1);
}

function searchPass(level: Level, field: Correspondence, reachPx: number, random: RandomStream, step: 1 | -1) {
  const { width, height, features, targets, isTarget, isDonor, donors } = level;
  const { donor, cost } = field;
  const count = targets.length;
  for (let k = 0; k < count; k++) {
    const target = targets[step === 1 ? k : count - 1 - k]!;
    let best = donor[target]!;
    let bestCost = cost[target]!;
    const beside = target - step;
    const above = target - step * width;
    for (let n = 0; n < 2; n++) {
      const neighbour = n === 0 ? beside : above;
      if (!isTarget[neighbour]) continue;
      const candidate = donor[neighbour]! + (n === 0 ? step : step * width);
      if (candidate === best || !isDonor[candidate]) continue;
      const c = patchCost(features, width, target, candidate, bestCost);
      if (c < bestCost) {
        bestCost = c;
        best = candidate;
      }
    }
    const x = best % width;
    const y = (best - x) / width;
    for (let reach = reachPx; reach >= 1; reach >>= 1) {
      const u = x + random.below(2 * reach + 1) - reach;
      const v = y + random.below(2 * reach + 1) - reach;
      if (u < 0 || v < 0 || u >= width || v >= height) continue;
      const candidate = v * width + u;
      if (!isDonor[candidate]) continue;
      const c = patchCost(features, width, target, candidate, bestCost);
      if (c < bestCost) {
        bestCost = c;
        best = candidate;
      }
    }
    const stray = donors[random.below(donors.length)]!;
    const c = patchCost(features, width, target, stray, bestCost);
    if (c < bestCost) {
      bestCost = c;
      best = stray;
    }
    donor[target] = best;
    cost[target] = bestCost;
  }
}

/**
 * The field of the next finer level: each target takes twice its parent's offset; where that donor is not allowed,
 * the nearest allowed one within 8 px, else one at random. Costs are left to `refreshCosts`.
 */
export function refineCorrespondence(
  coarse: Level,
  field: Correspondence,
  fine: Level,
  random: RandomStream,
): Correspondence {
  const out = emptyCorrespondence(fine);
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
