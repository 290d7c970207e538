import { argument, pointer } from './control';
import { RADIUS, rowCost, total } from './patch';

const SIDE: i32 = 7;

/** What a row of a patch costs against donors as they are on average; of its pixels `count` are known. */
function expectedCost(row: usize, mask: usize, count: i32): i32 {
  let cost = count * argument(18);
  for (let u: usize = 0; u < 7; u++) {
    if (!load<i32>(mask + 4 * u)) continue;
    for (let c: i32 = 0; c < 4; c++) {
      const difference = <i32>load<u8>(row + 4 * u + <usize>c) - argument(14 + c);
      cost += difference * difference;
    }
  }
  return cost;
}

/** Brings the rows that cost most to the front: the sooner a donor is known to be worse than the best so far. */
function sortRows(masks: usize, expected: usize, rows: usize): void {
  for (let row: usize = 1; row < rows; row++) {
    for (let k = row; k > 0 && load<i32>(expected + 4 * k) > load<i32>(expected + 4 * (k - 1)); k--) {
      const own = masks + 32 * k;
      const before = own - 32;
      const low = v128.load(own);
      const high = v128.load(own, 16);
      v128.store(own, v128.load(before));
      v128.store(own, v128.load(before, 16), 16);
      v128.store(before, low);
      v128.store(before, high, 16);
      const cost = load<i32>(expected + 4 * k);
      store<i32>(expected + 4 * k, load<i32>(expected + 4 * (k - 1)));
      store<i32>(expected + 4 * (k - 1), cost);
    }
  }
}

/**
 * The best donor of one target on the pixels known so far; see `peelTarget` in the core. Arguments: 0 width, 1 height,
 * 2 features, 3 known, 4 layer (target centres), 5 matched, 6 donor, 7 isDonor, 8 donors, 9 their number, 10 stride,
 * 11 room for masks (256 bytes a target), 12 what is found (one i32 a target), 13 bias, 14 to 17 the donors' mean
 * features, 18 their summed variances. Band = place in the layer.
 */
export function peelTarget(band: i32): void {
  const width = argument(0);
  const height = argument(1);
  const features = pointer(2);
  const known = pointer(3);
  const target = load<i32>(pointer(4) + ((<usize>band) << 2));
  const matched = pointer(5);
  const donorOf = pointer(6);
  const isDonor = pointer(7);
  const donors = pointer(8);
  const count = argument(9);
  const stride = argument(10);
  const bias = pointer(13);
  const masks = pointer(11) + <usize>(band * (SIDE + 1) * 32);
  const expected = masks + 32 * SIDE;
  const rowBytes = <usize>(width << 2);
  const corner = target - RADIUS * width - RADIUS;
  // Rows of which nothing is known are left out; the last four bytes of a row's mask hold how far down it lies.
  let rows: usize = 0;
  for (let v = 0; v < SIDE; v++) {
    const row = known + <usize>(corner + v * width);
    const mask = masks + 32 * rows;
    let count = 0;
    for (let u: usize = 0; u < 7; u++) {
      const isKnown = load<u8>(row + u);
      store<i32>(mask + 4 * u, isKnown ? -1 : 0);
      count += isKnown;
    }
    if (count === 0) continue;
    store<u32>(mask, <u32>v * <u32>rowBytes, 28);
    store<i32>(expected + 4 * rows, expectedCost(features + ((<usize>(corner + v * width)) << 2), mask, count));
    rows++;
  }
  sortRows(masks, expected, rows);
  const a = features + ((<usize>corner) << 2);
  let best = load<i32>(donors);
  let bestCost = i32.MAX_VALUE;
  let centre = 0;
  // Those of neighbours matched before, then an even sample, then around the best.
  for (let stage = 0; stage < 5; stage++) {
    const reach = stage === 0 ? RADIUS : 5 - stage;
    const side = 2 * reach + 1;
    const attempts = stage === 1 ? (count + stride - 1) / stride : side * side;
    if (stage > 1) centre = best;
    for (let k = 0; k < attempts; k++) {
      let candidate: i32;
      if (stage === 1) {
        candidate = load<i32>(donors + ((<usize>(k * stride)) << 2));
      } else {
        const shift = (k / side - reach) * width + (k % side) - reach;
        if (stage === 0) {
          const neighbour = target + shift;
          if (!load<u8>(matched + <usize>neighbour)) continue;
          candidate = load<i32>(donorOf + ((<usize>neighbour) << 2)) - shift;
        } else {
          candidate = centre + shift;
        }
        if (candidate < 0 || candidate >= width * height || !load<u8>(isDonor + <usize>candidate)) continue;
      }
      const b = features + ((<usize>(candidate - RADIUS * width - RADIUS)) << 2);
      let sum = i32x4.splat(0);
      const extra = load<i32>(bias + ((<usize>candidate) << 2));
      let cost = extra;
      if (cost >= bestCost) continue;
      for (let row: usize = 0; row < rows; row++) {
        const mask = masks + row * 32;
        const skip = <usize>load<u32>(mask, 28);
        sum = i32x4.add(
          sum,
          rowCost(a + skip, b + skip, v128.load(mask), v128.and(v128.load(mask, 16), i32x4(-1, -1, -1, 0))),
        );
        cost = extra + total(sum);
        if (cost >= bestCost) break;
      }
      if (cost < bestCost) {
        bestCost = cost;
        best = candidate;
      }
    }
  }
  store<i32>(pointer(12) + ((<usize>band) << 2), best);
}

/**
 * A pixel as the mean of what the matches around it bring along; see `averagePixel` in the core. Arguments: 0 width,
 * 1 height, 2 features, 3 pixels, 4 matched, 5 donor. Band = place among the pixels.
 */
export function averagePixel(band: i32): void {
  const width = argument(0);
  const height = argument(1);
  const features = pointer(2);
  const pixel = load<i32>(pointer(3) + ((<usize>band) << 2));
  const matched = pointer(4);
  const donorOf = pointer(5);
  const y = pixel / width;
  const x = pixel - y * width;
  const right = min(width - 1, x + RADIUS);
  const bottom = min(height - 1, y + RADIUS);
  let sum = i32x4.splat(0);
  let count = 0;
  for (let v = max(0, y - RADIUS); v <= bottom; v++) {
    for (let u = max(0, x - RADIUS); u <= right; u++) {
      const centre = v * width + u;
      if (!load<u8>(matched + <usize>centre)) continue;
      const source = load<i32>(donorOf + ((<usize>centre) << 2)) + pixel - centre;
      const bytes = v128.load32_zero(features + ((<usize>source) << 2));
      sum = i32x4.add(sum, i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(bytes)));
      count++;
    }
  }
  if (count === 0) return;
  const out = features + ((<usize>pixel) << 2);
  const half = i32x4.add(i32x4.shl(sum, 1), i32x4.splat(count));
  store<u8>(out, i32x4.extract_lane(half, 0) / (2 * count), 0);
  store<u8>(out, i32x4.extract_lane(half, 1) / (2 * count), 1);
  store<u8>(out, i32x4.extract_lane(half, 2) / (2 * count), 2);
  store<u8>(out, i32x4.extract_lane(half, 3) / (2 * count), 3);
}
