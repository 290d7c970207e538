import { argument, pointer } from './control';

const FEATURES: i32 = 5;
const PARAMETERS: i32 = 15;
/** What a component may cost beyond the cheapest and still be counted. */
const NEGLIGIBLE: f64 = 12;
/** Components with less weight are none. */
const FEWEST_SAMPLES: f64 = 5;

/*
 * Mixtures of normal distributions; see `mixtureBands` in the core. Arguments: 0 features (f32, FEATURES a pixel),
 * 1 picks (i32, the pixels meant), 2 number of picks, 3 components, 4 means, 5 whitening, 6 offsets (f64), 7 values
 * (f64 a pick), 8 labels (i32 a pick), 9 picks a band, 10 weights (f32 a pick), 11 totals, 12 spreads (f64).
 */

@inline
function feature(p: usize, q: usize, f: usize): v128 {
  const both = f64x2.splat(<f64>load<f32>(p + (f << 2)));
  return f64x2.replace_lane(both, 1, <f64>load<f32>(q + (f << 2)));
}

@inline
function term(from: usize, d: v128): v128 {
  return f64x2.mul(v128.load64_splat(from), d);
}

@inline
function off(value: v128, mean: usize): v128 {
  return f64x2.sub(value, v128.load64_splat(mean));
}

/** The negated logarithms of one component's share of the density at two pixels. */
@inline
function costs(k: i32, f0: v128, f1: v128, f2: v128, f3: v128, f4: v128): v128 {
  const mean = pointer(4) + (<usize>(k * FEATURES) << 3);
  const w = pointer(5) + (<usize>(k * PARAMETERS) << 3);
  const d0 = off(f0, mean);
  const d1 = off(f1, mean + 8);
  const d2 = off(f2, mean + 16);
  const d3 = off(f3, mean + 24);
  const d4 = off(f4, mean + 32);
  let z = term(w, d0);
  let sum = f64x2.mul(z, z);
  z = f64x2.add(term(w + 8, d0), term(w + 16, d1));
  sum = f64x2.add(sum, f64x2.mul(z, z));
  z = f64x2.add(f64x2.add(term(w + 24, d0), term(w + 32, d1)), term(w + 40, d2));
  sum = f64x2.add(sum, f64x2.mul(z, z));
  z = f64x2.add(f64x2.add(f64x2.add(term(w + 48, d0), term(w + 56, d1)), term(w + 64, d2)), term(w + 72, d3));
  sum = f64x2.add(sum, f64x2.mul(z, z));
  z = f64x2.add(
    f64x2.add(f64x2.add(f64x2.add(term(w + 80, d0), term(w + 88, d1)), term(w + 96, d2)), term(w + 104, d3)),
    term(w + 112, d4),
  );
  sum = f64x2.add(sum, f64x2.mul(z, z));
  return f64x2.add(f64x2.mul(f64x2.splat(0.5), sum), v128.load64_splat(pointer(6) + (<usize>k << 3)));
}

@inline
function pixelOf(pick: i32): usize {
  const i = load<i32>(pointer(1) + (<usize>pick << 2));
  return pointer(0) + (<usize>(i * FEATURES) << 2);
}

@inline
function isNone(k: i32): bool {
  return load<f64>(pointer(6) + (<usize>k << 3)) === Infinity;
}

export function densityBand(band: i32): void {
  const components = argument(3);
  const size = argument(9);
  const end = min(argument(2), (band + 1) * size);
  const values = pointer(7);
  for (let pick = band * size; pick < end; pick += 2) {
    const p = pixelOf(pick);
    const q = pixelOf(min(pick + 1, end - 1));
    const f0 = feature(p, q, 0);
    const f1 = feature(p, q, 1);
    const f2 = feature(p, q, 2);
    const f3 = feature(p, q, 3);
    const f4 = feature(p, q, 4);
    let least0 = Infinity;
    let least1 = Infinity;
    let sum0: f64 = 0;
    let sum1: f64 = 0;
    for (let k = 0; k < components; k++) {
      if (isNone(k)) continue;
      const cost = costs(k, f0, f1, f2, f3, f4);
      const c0 = f64x2.extract_lane(cost, 0);
      const c1 = f64x2.extract_lane(cost, 1);
      if (c0 < least0) {
        sum0 = 1 + sum0 * Math.exp(c0 - least0);
        least0 = c0;
      } else if (c0 <= least0 + NEGLIGIBLE) sum0 += Math.exp(least0 - c0);
      if (c1 < least1) {
        sum1 = 1 + sum1 * Math.exp(c1 - least1);
        least1 = c1;
      } else if (c1 <= least1 + NEGLIGIBLE) sum1 += Math.exp(least1 - c1);
    }
    const at = values + (<usize>pick << 3);
    store<f64>(at, Math.log(sum0) - least0);
    if (pick + 1 < end) store<f64>(at, Math.log(sum1) - least1, 8);
  }
}

export function labelBand(band: i32): void {
  const components = argument(3);
  const size = argument(9);
  const end = min(argument(2), (band + 1) * size);
  const values = pointer(7);
  const labels = pointer(8);
  for (let pick = band * size; pick < end; pick += 2) {
    const p = pixelOf(pick);
    const q = pixelOf(min(pick + 1, end - 1));
    const f0 = feature(p, q, 0);
    const f1 = feature(p, q, 1);
    const f2 = feature(p, q, 2);
    const f3 = feature(p, q, 3);
    const f4 = feature(p, q, 4);
    let least = f64x2.splat(Infinity);
    let best = i64x2.splat(0);
    for (let k = 0; k < components; k++) {
      if (isNone(k)) continue;
      const cost = costs(k, f0, f1, f2, f3, f4);
      const less = f64x2.lt(cost, least);
      least = v128.bitselect(cost, least, less);
      best = v128.bitselect(i64x2.splat(<i64>k), best, less);
    }
    const value = values + (<usize>pick << 3);
    const label = labels + (<usize>pick << 2);
    store<f64>(value, f64x2.extract_lane(least, 0));
    store<i32>(label, <i32>i64x2.extract_lane(best, 0));
    if (pick + 1 >= end) continue;
    store<f64>(value, f64x2.extract_lane(least, 1), 8);
    store<i32>(label, <i32>i64x2.extract_lane(best, 1), 4);
  }
}

/** Totals, means and summed covariances of the labelled picks; all in one band. */
export function gatherMoments(): void {
  const count = argument(2);
  const components = argument(3);
  const means = pointer(4);
  const labels = pointer(8);
  const weights = pointer(10);
  const totals = pointer(11);
  const spreads = pointer(12);
  memory.fill(totals, 0, <usize>components << 3);
  memory.fill(means, 0, <usize>(components * FEATURES) << 3);
  memory.fill(spreads, 0, <usize>(components * PARAMETERS) << 3);
  for (let pick = 0; pick < count; pick++) {
    const k = load<i32>(labels + (<usize>pick << 2));
    const weight = <f64>load<f32>(weights + (<usize>pick << 2));
    const total = totals + (<usize>k << 3);
    store<f64>(total, load<f64>(total) + weight);
    const mean = means + (<usize>(k * FEATURES) << 3);
    const p = pixelOf(pick);
    for (let f: usize = 0; f < <usize>FEATURES; f++) {
      const at = mean + (f << 3);
      store<f64>(at, load<f64>(at) + weight * <f64>load<f32>(p + (f << 2)));
    }
  }
  for (let k = 0; k < components; k++) {
    const total = load<f64>(totals + (<usize>k << 3));
    if (total < FEWEST_SAMPLES) continue;
    for (let f = k * FEATURES; f < (k + 1) * FEATURES; f++) {
      const at = means + (<usize>f << 3);
      store<f64>(at, load<f64>(at) / total);
    }
  }
  for (let pick = 0; pick < count; pick++) {
    const k = load<i32>(labels + (<usize>pick << 2));
    const weight = <f64>load<f32>(weights + (<usize>pick << 2));
    const mean = means + (<usize>(k * FEATURES) << 3);
    const p = pixelOf(pick);
    let spread = spreads + (<usize>(k * PARAMETERS) << 3);
    for (let row: usize = 0; row < <usize>FEATURES; row++) {
      const d = weight * (<f64>load<f32>(p + (row << 2)) - load<f64>(mean + (row << 3)));
      for (let column: usize = 0; column <= row; column++) {
        const other = <f64>load<f32>(p + (column << 2)) - load<f64>(mean + (column << 3));
        store<f64>(spread, load<f64>(spread) + d * other);
        spread += 8;
      }
    }
  }
}

/** Shares of its light that a shadow leaves a ground. */
const DARKEST: f64 = 0.2;
const LIGHTEST: f64 = 0.97;
/** Steps of how much less blue a ground is in the light, at full shadow. */
const BLUE_STEPS: i32 = 3;

@inline
function blueness(step: i32): f64 {
  return step === 0 ? 0 : step === 1 ? 0.12 : 0.25;
}

/** As in the features, which are single precision. */
@inline
function single(value: v128): v128 {
  return f64x2.promote_low_f32x4(f32x4.demote_f64x2_zero(value));
}

export function shadeBand(band: i32): void {
  const components = argument(3);
  const size = argument(9);
  const end = min(argument(2), (band + 1) * size);
  const values = pointer(7);
  const none = f64x2.splat(Infinity);
  const one = f64x2.splat(1);
  for (let pick = band * size; pick < end; pick += 2) {
    const p = pixelOf(pick);
    const q = pixelOf(min(pick + 1, end - 1));
    const luma = feature(p, q, 0);
    const blue = f64x2.add(f64x2.div(feature(p, q, 1), f64x2.splat(1.2)), luma);
    const red = f64x2.add(f64x2.div(feature(p, q, 2), f64x2.splat(1.2)), luma);
    const green = f64x2.div(
      f64x2.sub(
        f64x2.sub(luma, f64x2.mul(f64x2.splat(0.299), red)),
        f64x2.mul(f64x2.splat(0.114), blue),
      ),
      f64x2.splat(0.587),
    );
    const x = feature(p, q, 3);
    const y = feature(p, q, 4);
    let least = none;
    for (let k = 0; k < components; k++) {
      if (isNone(k)) continue;
      const share = f64x2.div(luma, v128.load64_splat(pointer(4) + (<usize>(k * FEATURES) << 3)));
      const inside = v128.and(f64x2.gt(share, f64x2.splat(DARKEST)), f64x2.lt(share, f64x2.splat(LIGHTEST)));
      if (!v128.any_true(inside)) continue;
      const lost = f64x2.sub(one, share);
      for (let step = 0; step < BLUE_STEPS; step++) {
        const less = blueness(step);
        const b = f64x2.mul(f64x2.div(blue, share), f64x2.sub(one, f64x2.mul(f64x2.splat(less), lost)));
        const r = f64x2.mul(f64x2.div(red, share), f64x2.add(one, f64x2.mul(f64x2.splat(0.5 * less), lost)));
        const g = f64x2.div(f64x2.mul(f64x2.splat(0.587), green), share);
        const l = f64x2.add(
          f64x2.add(f64x2.mul(f64x2.splat(0.299), r), g),
          f64x2.mul(f64x2.splat(0.114), b),
        );
        const cost = costs(
          k,
          single(l),
          single(f64x2.mul(f64x2.splat(1.2), f64x2.sub(b, l))),
          single(f64x2.mul(f64x2.splat(1.2), f64x2.sub(r, l))),
          x,
          y,
        );
        least = v128.bitselect(cost, least, v128.and(inside, f64x2.lt(cost, least)));
      }
    }
    const at = values + (<usize>pick << 3);
    store<f64>(at, -f64x2.extract_lane(least, 0));
    if (pick + 1 < end) store<f64>(at, -f64x2.extract_lane(least, 1), 8);
  }
}
