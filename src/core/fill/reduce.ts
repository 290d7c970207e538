import type { Donors } from '../mask/byteMasks.ts';
/** Some rows of the photo; one more may follow (`below`) that only gradients look at. */
export interface PhotoStrip {
  width: number;
  rows: number;
  /** Whether `pixels` and `holes` hold one more row. */
  below: boolean;
  /** Photo pixels a work cell is wide and high. */
  factor: number;
  /** RGBA. */
  pixels: Uint8Array;
  /** 0 = known. */
  holes: Uint8Array;
  /** 255 = may be copied from, if it is known and opaque. */
  donors: Donors;
}

/** Rows of work cells: sums over their known pixels and whether any pixel is hole or unusable. */
export interface WorkRows {
  width: number;
  /** Five a cell: luma x 256, blue, red, gradient magnitude x 256, number of known pixels. */
  sums: Int32Array;
  /** Bit 0: hole; bit 1: not to be copied from. */
  flags: Uint8Array;
}

export const SUMS_PER_CELL = 5;

/**
 * Adds up one row of work cells. Luma is (77 R + 150 G + 29 B), BT.601 times 256; the gradient is the magnitude of the
 * forward differences of luma between known pixels, in single precision, cut to a whole number: every sum is exact.
 */
export function reduceRow(strip: PhotoStrip, work: WorkRows, row: number): void {
  const { width, rows, below, factor, pixels, holes, donors } = strip;
  const { sums, flags } = work;
  const lumaAt = (i: number): number => 77 * pixels[4 * i]! + 150 * pixels[4 * i + 1]! + 29 * pixels[4 * i + 2]!;
  const first = row * work.width;
  sums.fill(0, first * SUMS_PER_CELL, (first + work.width) * SUMS_PER_CELL);
  flags.fill(0, first, first + work.width);
  for (let y = row * factor; y < Math.min(rows, (row + 1) * factor); y++) {
    const hasBelow = y + 1 < rows || below;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const cell = first + Math.floor(x / factor);
      if (donors[i] !== 255 || pixels[4 * i + 3] !== 255) flags[cell]! |= 2;
      if (holes[i]) {
        flags[cell]! |= 3;
        continue;
      }
      const luma = lumaAt(i);
      const dx = x + 1 < width && !holes[i + 1] ? lumaAt(i + 1) - luma : 0;
      const dy = hasBelow && !holes[i + width] ? lumaAt(i + width) - luma : 0;
      const s = cell * SUMS_PER_CELL;
      sums[s]! += luma;
      sums[s + 1]! += pixels[4 * i + 2]!;
      sums[s + 2]! += pixels[4 * i]!;
      sums[s + 3]! += magnitude(dx, dy);
      sums[s + 4]! += 1;
    }
  }
}

function magnitude(dx: number, dy: number): number {
  const squares = Math.fround(Math.fround(dx * dx) + Math.fround(dy * dy));
  return Math.trunc(Math.fround(Math.sqrt(squares)));
}
