import { argument, floatArgument, pointer } from './control';

/*
 * One pass of a box filter; see `boxBlur` in the core. Arguments: 0 width, 1 height, 2 from, 3 to, 4 whole radius,
 * 5 rows or columns a band, 6 rest of the radius (f64), 8 scale (f64), 10 sums (f64, one a column).
 */

@inline
function at(plane: usize, i: i32): f64 {
  return <f64>load<f32>(plane + (<usize>i << 2));
}

/** Rows of a band, each by a running sum. */
export function blurRowsBand(band: i32): void {
  const width = argument(0);
  const from = pointer(2);
  const to = pointer(3);
  const whole = argument(4);
  const rest = floatArgument(6);
  const scale = floatArgument(8);
  const size = argument(5);
  const end = min(argument(1), (band + 1) * size);
  const last = width - 1;
  for (let y = band * size; y < end; y++) {
    const row = from + (<usize>(y * width) << 2);
    const out = to + (<usize>(y * width) << 2);
    let sum: f64 = 0;
    for (let u = -whole; u <= whole; u++) sum += at(row, max(0, min(last, u)));
    const inner = min(width - whole - 1, width);
    let x = 0;
    for (; x < min(width, whole + 1); x++) {
      const after = at(row, min(last, x + whole + 1));
      store<f32>(out + (<usize>x << 2), <f32>((sum + rest * (at(row, max(0, x - whole - 1)) + after)) * scale));
      sum += after - at(row, max(0, x - whole));
    }
    for (; x < inner; x++) {
      const after = at(row, x + whole + 1);
      store<f32>(out + (<usize>x << 2), <f32>((sum + rest * (at(row, x - whole - 1) + after)) * scale));
      sum += after - at(row, x - whole);
    }
    for (; x < width; x++) {
      const after = at(row, last);
      store<f32>(out + (<usize>x << 2), <f32>((sum + rest * (at(row, x - whole - 1) + after)) * scale));
      sum += after - at(row, x - whole);
    }
  }
}

@inline
function pair(row: usize, x: i32): v128 {
  return f64x2.promote_low_f32x4(v128.load64_zero(row + (<usize>x << 2)));
}

/** Columns of a band, a row at a time: one running sum a column. */
export function blurColumnsBand(band: i32): void {
  const width = argument(0);
  const height = argument(1);
  const from = pointer(2);
  const to = pointer(3);
  const whole = argument(4);
  const rest = floatArgument(6);
  const scale = floatArgument(8);
  const sums = pointer(10);
  const size = argument(5);
  const first = band * size;
  const end = min(width, first + size);
  const even = first + ((end - first) & ~1);
  const last = height - 1;
  const stride = <usize>width << 2;
  for (let x = first; x < end; x++) {
    let sum: f64 = 0;
    for (let v = -whole; v <= whole; v++) sum += at(from + stride * <usize>max(0, min(last, v)), x);
    store<f64>(sums + (<usize>x << 3), sum);
  }
  for (let y = 0; y < height; y++) {
    const out = to + stride * <usize>y;
    const before = from + stride * <usize>max(0, y - whole - 1);
    const after = from + stride * <usize>min(last, y + whole + 1);
    const leaving = from + stride * <usize>max(0, min(last, y - whole));
    for (let x = first; x < even; x += 2) {
      const sumAt = sums + (<usize>x << 3);
      const next = pair(after, x);
      const sum = v128.load(sumAt);
      const ends = f64x2.mul(f64x2.splat(rest), f64x2.add(pair(before, x), next));
      const value = f64x2.mul(f64x2.add(sum, ends), f64x2.splat(scale));
      v128.store64_lane(out + (<usize>x << 2), f32x4.demote_f64x2_zero(value), 0);
      v128.store(sumAt, f64x2.add(sum, f64x2.sub(next, pair(leaving, x))));
    }
    for (let x = even; x < end; x++) {
      const sumAt = sums + (<usize>x << 3);
      const next = at(after, x);
      const sum = load<f64>(sumAt);
      store<f32>(out + (<usize>x << 2), <f32>((sum + rest * (at(before, x) + next)) * scale));
      store<f64>(sumAt, sum + (next - at(leaving, x)));
    }
  }
}
