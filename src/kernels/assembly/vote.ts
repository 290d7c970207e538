import { argument, floatArgument, pointer } from './control';
import { expNegative } from './expNegative';
import { RADIUS } from './patch';

const MIN_WEIGHT: f64 = 1e-12;

/**
 * What a band of hole pixels becomes; see `voteBand` in the core. Arguments: 0 width, 1 height, 2 features,
 * 3 hole pixels, 4 their number, 5 weight, 6 donor, 7 next (four bytes a hole pixel), 8 pixels a band, 9 targets,
 * 10 their number, 11 falloff, 12 cost, 14 by what a unit of it weakens the exponent (f64). The weight of a pixel that is
 * no target centre is 0.
 */
export function voteBand(band: i32): void {
  const width = argument(0);
  const height = argument(1);
  const features = pointer(2);
  const pixels = pointer(3);
  const count = argument(4);
  const weight = pointer(5);
  const donorOf = pointer(6);
  const next = pointer(7);
  const size = argument(8);
  const end = min(count, (band + 1) * size);
  for (let k = band * size; k < end; k++) {
    const pixel = load<i32>(pixels + ((<usize>k) << 2));
    const y = pixel / width;
    const x = pixel - y * width;
    const v1 = min(height - 1, y + RADIUS);
    const u0 = max(0, x - RADIUS);
    const u1 = min(width - 1, x + RADIUS);
    let sum = f32x4.splat(0);
    let total: f32 = 0;
    for (let v = max(0, y - RADIUS); v <= v1; v++) {
      for (let centre = v * width + u0; centre <= v * width + u1; centre++) {
        const w = load<f32>(weight + ((<usize>centre) << 2));
        if (w === 0) continue;
        const source = load<i32>(donorOf + ((<usize>centre) << 2)) + pixel - centre;
        const bytes = v128.load32_zero(features + ((<usize>source) << 2));
        const levels = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(bytes));
        sum = f32x4.add(sum, f32x4.mul(f32x4.splat(w), f32x4.convert_i32x4_s(levels)));
        total += w;
      }
    }
    const mean = f32x4.add(f32x4.div(sum, f32x4.splat(total)), f32x4.splat(0.5));
    const words = i32x4.trunc_sat_f32x4_s(mean);
    const halves = i16x8.narrow_i32x4_s(words, words);
    store<u32>(next + ((<usize>k) << 2), i32x4.extract_lane(i8x16.narrow_i16x8_u(halves, halves), 0));
  }
}

/** Weighs a band of targets; see `weighBand` in the core. Arguments as for `voteBand`. */
export function weighBand(band: i32): void {
  const targets = pointer(9);
  const falloff = pointer(11);
  const cost = pointer(12);
  const weight = pointer(5);
  const perCost = floatArgument(14);
  const size = argument(8);
  const end = min(argument(10), (band + 1) * size);
  for (let k = band * size; k < end; k++) {
    const target = <usize>load<i32>(targets + ((<usize>k) << 2)) << 2;
    const share = expNegative(<f64>load<i32>(cost + target) * perCost) * load<f64>(falloff + ((<usize>k) << 3));
    store<f32>(weight + target, <f32>max(MIN_WEIGHT, share));
  }
}

/** Writes a band's new bytes into the features. Arguments as for `voteBand`. */
export function settleBand(band: i32): void {
  const features = pointer(2);
  const pixels = pointer(3);
  const next = pointer(7);
  const size = argument(8);
  const end = min(argument(4), (band + 1) * size);
  for (let k = band * size; k < end; k++) {
    store<u32>(features + ((<usize>load<i32>(pixels + ((<usize>k) << 2))) << 2), load<u32>(next + ((<usize>k) << 2)));
  }
}
