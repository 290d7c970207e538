export const RADIUS: i32 = 3;

/** The squares of sixteen bytes, summed up in four lanes. */
@inline
function squares(d: v128): v128 {
  const low = i16x8.extend_low_i8x16_u(d);
  const high = i16x8.extend_high_i8x16_u(d);
  return i32x4.add(i32x4.dot_i16x8_s(low, low), i32x4.dot_i16x8_s(high, high));
}

/** Two rows of seven pixels, as sixteen and twelve bytes: their squared differences under the masks, in four lanes. */
@inline
export function rowCost(a: usize, b: usize, mask0: v128, mask1: v128): v128 {
  const a0 = v128.load(a);
  const b0 = v128.load(b);
  const a1 = v128.load(a, 16);
  const b1 = v128.load(b, 16);
  const d0 = v128.and(mask0, v128.or(i8x16.sub_sat_u(a0, b0), i8x16.sub_sat_u(b0, a0)));
  const d1 = v128.and(mask1, v128.or(i8x16.sub_sat_u(a1, b1), i8x16.sub_sat_u(b1, a1)));
  return i32x4.add(squares(d0), squares(d1));
}

/** The sum of four lanes. */
@inline
export function total(v: v128): i32 {
  const pair = i32x4.add(v, i8x16.shuffle(v, v, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7));
  return i32x4.extract_lane(pair, 0) + i32x4.extract_lane(pair, 1);
}

@inline
function wholeRow(a: usize, b: usize): v128 {
  return rowCost(a, b, i32x4.splat(-1), i32x4(-1, -1, -1, 0));
}

/** See `patchCost` in the core: the same sum; rows in the order 3, 0, 6, 1, 5, 2, 4, stops early at `limit`. */
@inline
export function patchCost(features: usize, width: i32, a: i32, b: i32, limit: i32): i32 {
  const stride = <usize>(width << 2);
  const corner = RADIUS * width + RADIUS;
  const a0 = features + (<usize>(a - corner) << 2);
  const b0 = features + (<usize>(b - corner) << 2);
  let sum = i32x4.add(wholeRow(a0 + 3 * stride, b0 + 3 * stride), wholeRow(a0, b0));
  let cost = total(sum);
  if (cost >= limit) return cost;
  sum = i32x4.add(sum, wholeRow(a0 + 6 * stride, b0 + 6 * stride));
  sum = i32x4.add(sum, wholeRow(a0 + stride, b0 + stride));
  cost = total(sum);
  if (cost >= limit) return cost;
  sum = i32x4.add(sum, wholeRow(a0 + 5 * stride, b0 + 5 * stride));
  sum = i32x4.add(sum, wholeRow(a0 + 2 * stride, b0 + 2 * stride));
  sum = i32x4.add(sum, wholeRow(a0 + 4 * stride, b0 + 4 * stride));
  return total(sum);
}
