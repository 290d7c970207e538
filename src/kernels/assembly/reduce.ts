import { argument, pointer } from './control';

/** Luma times 256 of four pixels. */
@inline
function luma4(pixels: v128): v128 {
  const weights = i16x8(77, 150, 29, 0, 77, 150, 29, 0);
  const low = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(pixels), weights);
  const high = i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(pixels), weights);
  return i32x4.add(
    i8x16.shuffle(low, high, 0, 1, 2, 3, 8, 9, 10, 11, 16, 17, 18, 19, 24, 25, 26, 27),
    i8x16.shuffle(low, high, 4, 5, 6, 7, 12, 13, 14, 15, 20, 21, 22, 23, 28, 29, 30, 31),
  );
}

@inline
function luma(pixel: usize): i32 {
  return 77 * <i32>load<u8>(pixel) + 150 * <i32>load<u8>(pixel, 1) + 29 * <i32>load<u8>(pixel, 2);
}

@inline
function magnitude(dx: i32, dy: i32): i32 {
  const x = <f32>dx;
  const y = <f32>dy;
  return <i32>sqrt<f32>(x * x + y * y);
}

@inline
function magnitude4(dx: v128, dy: v128): v128 {
  const x = f32x4.convert_i32x4_s(dx);
  const y = f32x4.convert_i32x4_s(dy);
  return i32x4.trunc_sat_f32x4_s(f32x4.sqrt(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y))));
}

/**
 * One row of work cells out of a strip of the photo; see `reduceRow` in the core. Arguments: 0 photo width, 1 rows in
 * the strip, 2 whether a row of the photo follows the last whole row, 3 factor, 4 work width, 5 pixels (RGBA), 6 hole
 * bytes, 7 donor bytes, 8 sums (five i32 a cell: luma, blue, red, gradient, known pixels), 9 cell flags (bit 0 hole,
 * bit 1 unusable). Band = work row within the strip.
 */
export function reduceRow(band: i32): void {
  const width = argument(0);
  const rows = argument(1);
  const below = argument(2);
  const factor = argument(3);
  const workWidth = argument(4);
  const pixels = pointer(5);
  const holes = pointer(6);
  const donors = pointer(7);
  const sums = pointer(8) + <usize>(band * workWidth * 20);
  const flags = pointer(9) + <usize>(band * workWidth);
  const yEnd = min(rows, (band + 1) * factor);
  memory.fill(sums, 0, <usize>(workWidth * 20));
  memory.fill(flags, 0, <usize>workWidth);
  for (let y = band * factor; y < yEnd; y++) {
    const hasBelow = y + 1 < rows || below !== 0;
    const row = y * width;
    for (let cell = 0; cell < workWidth; cell++) {
      const xEnd = min(width, (cell + 1) * factor);
      let x = cell * factor;
      let lumaSum = 0;
      let blue = 0;
      let red = 0;
      let gradient = 0;
      let known = 0;
      let flag: u8 = 0;
      while (x < xEnd) {
        const at = <usize>(row + x);
        const p = pixels + (at << 2);
        if (
          x + 4 <= xEnd &&
          x + 4 < width &&
          hasBelow &&
          load<u32>(holes + at) === 0 &&
          load<u8>(holes + at, 4) === 0 &&
          load<u32>(holes + at + <usize>width) === 0
        ) {
          const here = v128.load(p);
          const l = luma4(here);
          const dx = i32x4.sub(luma4(v128.load(p, 4)), l);
          const dy = i32x4.sub(luma4(v128.load(p + <usize>(width << 2))), l);
          const g = magnitude4(dx, dy);
          lumaSum += i32x4.extract_lane(l, 0) + i32x4.extract_lane(l, 1) + i32x4.extract_lane(l, 2) + i32x4.extract_lane(l, 3);
          gradient += i32x4.extract_lane(g, 0) + i32x4.extract_lane(g, 1) + i32x4.extract_lane(g, 2) + i32x4.extract_lane(g, 3);
          red += <i32>load<u8>(p) + <i32>load<u8>(p, 4) + <i32>load<u8>(p, 8) + <i32>load<u8>(p, 12);
          blue += <i32>load<u8>(p, 2) + <i32>load<u8>(p, 6) + <i32>load<u8>(p, 10) + <i32>load<u8>(p, 14);
          const opaque = i32x4.all_true(i32x4.ge_u(here, i32x4.splat(0xff000000)));
          if (load<u32>(donors + at) !== 0xffffffff || !opaque) flag |= 2;
          known += 4;
          x += 4;
          continue;
        }
        if (load<u8>(donors + at) !== 255 || load<u8>(p, 3) !== 255) flag |= 2;
        if (load<u8>(holes + at)) {
          flag |= 3;
        } else {
          const l = luma(p);
          const dx = x + 1 < width && !load<u8>(holes + at, 1) ? luma(p + 4) - l : 0;
          const dy = hasBelow && !load<u8>(holes + at + <usize>width) ? luma(p + <usize>(width << 2)) - l : 0;
          lumaSum += l;
          red += load<u8>(p);
          blue += load<u8>(p, 2);
          gradient += magnitude(dx, dy);
          known++;
        }
        x++;
      }
      const s = sums + <usize>(cell * 20);
      store<i32>(s, load<i32>(s) + lumaSum);
      store<i32>(s, load<i32>(s, 4) + blue, 4);
      store<i32>(s, load<i32>(s, 8) + red, 8);
      store<i32>(s, load<i32>(s, 12) + gradient, 12);
      store<i32>(s, load<i32>(s, 16) + known, 16);
      store<u8>(flags + <usize>cell, load<u8>(flags + <usize>cell) | flag);
    }
  }
}
