import { argument, pointer } from './control';
import { nextRandom, startRandom } from './random';
import { patchCost } from './patch';

/** What a donor so many rows away costs for that. */
@inline
function heightCost(rows: i32): i32 {
  return min(argument(20), argument(12) * abs(rows));
}

/**
 * One pass of the search over a band of rows; see `searchBand` in the core. Arguments: 0 width, 1 height, 2 features,
 * 3 targets, 4 row starts, 5 isTarget, 6 isDonor, 7 donors, 8 donor count, 9 donor, 10 cost, 11 bias, 12 height weight,
 * 13 reach, 14 seed, 15 pass, 16 step (1 or -1), 17 rows a band, 18 donors of the row before each band, 19 the first
 * band's first row, 20 the most that height costs.
 */
export function searchBand(band: i32): void {
  const width = argument(0);
  const height = argument(1);
  const features = pointer(2);
  const targets = pointer(3);
  const rowStarts = pointer(4);
  const isTarget = pointer(5);
  const isDonor = pointer(6);
  const donors = pointer(7);
  const donorCount = <u32>argument(8);
  const donorOf = pointer(9);
  const costOf = pointer(10);
  const bias = pointer(11);
  const farthest = argument(13);
  const seed = <u32>argument(14);
  const pass = <u32>argument(15);
  const step = argument(16);
  const first = max(0, argument(19) + band * argument(17));
  const end = min(height, argument(19) + (band + 1) * argument(17));
  const from = load<i32>(rowStarts + ((<usize>first) << 2));
  const to = load<i32>(rowStarts + ((<usize>end) << 2));
  const entered = step === 1 ? first : end - 1;
  const before = pointer(18) + ((<usize>(band * width)) << 2);
  for (let k = 0; k < to - from; k++) {
    const target = load<i32>(targets + ((<usize>(step === 1 ? from + k : to - 1 - k)) << 2));
    const row = target / width;
    let best = load<i32>(donorOf + ((<usize>target) << 2));
    let bestCost = load<i32>(costOf + ((<usize>target) << 2));
    for (let n = 0; n < 2; n++) {
      const shift = n === 0 ? step : step * width;
      const neighbour = target - shift;
      if (!load<u8>(isTarget + <usize>neighbour)) continue;
      const isBefore = n === 1 && row === entered;
      const at = isBefore ? before + ((<usize>(target - row * width)) << 2) : donorOf + ((<usize>neighbour) << 2);
      const candidate = load<i32>(at) + shift;
      if (candidate === best || !load<u8>(isDonor + <usize>candidate)) continue;
      const extra = load<i32>(bias + ((<usize>candidate) << 2)) + heightCost(candidate / width - row);
      if (extra >= bestCost) continue;
      const c = extra + patchCost(features, width, target, candidate, bestCost - extra);
      if (c < bestCost) {
        bestCost = c;
        best = candidate;
      }
    }
    let random = startRandom(seed, pass, <u32>target);
    const y = best / width;
    const x = best - y * width;
    for (let reach = farthest; reach >= 1; reach >>= 1) {
      random = nextRandom(random);
      const u = x + <i32>(random % <u32>(2 * reach + 1)) - reach;
      random = nextRandom(random);
      const v = y + <i32>(random % <u32>(2 * reach + 1)) - reach;
      if (u < 0 || v < 0 || u >= width || v >= height) continue;
      const candidate = v * width + u;
      if (!load<u8>(isDonor + <usize>candidate)) continue;
      const extra = load<i32>(bias + ((<usize>candidate) << 2)) + heightCost(v - row);
      if (extra >= bestCost) continue;
      const c = extra + patchCost(features, width, target, candidate, bestCost - extra);
      if (c < bestCost) {
        bestCost = c;
        best = candidate;
      }
    }
    random = nextRandom(random);
    const stray = load<i32>(donors + ((<usize>(random % donorCount)) << 2));
    const extra = load<i32>(bias + ((<usize>stray) << 2)) + heightCost(stray / width - row);
    if (extra < bestCost) {
      const c = extra + patchCost(features, width, target, stray, bestCost - extra);
      if (c < bestCost) {
        bestCost = c;
        best = stray;
      }
    }
    store<i32>(donorOf + ((<usize>target) << 2), best);
    store<i32>(costOf + ((<usize>target) << 2), bestCost);
  }
}

/** Costs of a band of target rows, measured anew. Arguments as for `searchBand`. */
export function costBand(band: i32): void {
  const width = argument(0);
  const height = argument(1);
  const features = pointer(2);
  const targets = pointer(3);
  const rowStarts = pointer(4);
  const donorOf = pointer(9);
  const costOf = pointer(10);
  const bias = pointer(11);
  const bandRows = argument(17);
  const firstRow = band * bandRows;
  const endRow = min(height, firstRow + bandRows);
  const to = load<i32>(rowStarts + ((<usize>endRow) << 2));
  for (let k = load<i32>(rowStarts + ((<usize>firstRow) << 2)); k < to; k++) {
    const target = load<i32>(targets + ((<usize>k) << 2));
    const donor = load<i32>(donorOf + ((<usize>target) << 2));
    const extra = load<i32>(bias + ((<usize>donor) << 2)) + heightCost(donor / width - target / width);
    store<i32>(costOf + ((<usize>target) << 2), extra + patchCost(features, width, target, donor, i32.MAX_VALUE));
  }
}
