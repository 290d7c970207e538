import { argument, pointer } from './control';

const REACH: i32 = 3;
const TAPS: i32 = 6;
const PHASES: f32 = 1024;

/**
 * Samples a band of target pixels; see `resampleBand` in the core. Arguments: 0 window, 1 its width, 2 positions,
 * 3 samples a pixel, 4 pixels, 5 weights, 6 out, 7 pixels a band.
 */
export function resampleBand(band: i32): void {
  const source = pointer(0);
  const stride = argument(1);
  const positions = pointer(2);
  const samples = argument(3);
  const weights = pointer(5);
  const out = pointer(6);
  const size = argument(7);
  const end = min(argument(4), (band + 1) * size);
  for (let pixel = band * size; pixel < end; pixel++) {
    let sum = f32x4.splat(0);
    for (let k = pixel * samples; k < (pixel + 1) * samples; k++) {
      const at = positions + ((<usize>k) << 3);
      const x = load<f32>(at) - 0.5;
      const y = load<f32>(at, 4) - 0.5;
      const left = floor(x);
      const top = floor(y);
      const wx = weights + ((<usize>(TAPS * i32((x - left) * PHASES + 0.5))) << 2);
      const wy = weights + ((<usize>(TAPS * i32((y - top) * PHASES + 0.5))) << 2);
      const start = (i32(top) - REACH + 1) * stride + i32(left) - REACH + 1;
      for (let v = 0; v < TAPS; v++) {
        const down = load<f32>(wy + ((<usize>v) << 2));
        // Pushed along rows only, a picture needs one row of the six.
        if (down === 0) continue;
        const from = source + ((<usize>(start + v * stride)) << 2);
        let row = f32x4.splat(0);
        for (let u = 0; u < TAPS; u++) {
          const bytes = v128.load32_zero(from + ((<usize>u) << 2));
          const levels = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(bytes));
          const weight = f32x4.splat(load<f32>(wx + ((<usize>u) << 2)));
          row = f32x4.add(row, f32x4.mul(weight, f32x4.convert_i32x4_s(levels)));
        }
        sum = f32x4.add(sum, f32x4.mul(f32x4.splat(down), row));
      }
    }
    const mean = f32x4.add(f32x4.div(sum, f32x4.splat(f32(samples))), f32x4.splat(0.5));
    const words = i32x4.trunc_sat_f32x4_s(f32x4.floor(mean));
    const halves = i16x8.narrow_i32x4_s(words, words);
    const levels = i32x4.extract_lane(i8x16.narrow_i16x8_u(halves, halves), 0);
    store<u32>(out + ((<usize>pixel) << 2), levels | 0xff000000);
  }
}
