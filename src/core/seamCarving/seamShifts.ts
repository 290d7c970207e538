import { blurPlane } from '../image/boxBlur.ts';

/** Where each column of a narrowed or widened row comes from, as boundaries between columns: `target + 1` a row. */
export interface SeamShifts {
  columns: number;
  rows: number;
  /** Source coordinate minus target coordinate at each boundary, in columns of the source. */
  shifts: Float32Array;
}

/**
 * What a picture of `width` x `height` becomes when its first seams are taken out (a `target` less than the width) or
 * doubled (a greater one), as a shift for each boundary between columns, evened out over `evenPx` in both directions
 * so that the picture is pushed instead of cut. A row's ends stay its ends; boundaries keep their order.
 */
export function seamShifts(
  order: Uint16Array,
  width: number,
  height: number,
  target: number,
  evenPx: number,
): SeamShifts {
  const columns = target + 1;
  const used = Math.abs(target - width);
  const shifts = new Float32Array(columns * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let boundary = y * columns;
    shifts[boundary++] = 0;
    let at = 1;
    for (let x = 0; x < width; x++) {
      const seam = order[row + x]!;
      const isSeam = seam > 0 && seam <= used;
      // The boundary after this pixel; a pixel taken out has none, one that is doubled has another in its middle.
      if (isSeam && target < width) continue;
      if (isSeam) shifts[boundary++] = x + 0.5 - at++;
      shifts[boundary++] = x + 1 - at++;
    }
    shifts[y * columns + target] = width - target;
  }
  return { columns, rows: height, shifts: evened(shifts, columns, height, evenPx) };
}

/** Blurred, with the rows prolonged beyond their ends as their mirror image turned by half, so that the ends stay. */
function evened(shifts: Float32Array, columns: number, rows: number, radius: number): Float32Array {
  const margin = Math.min(columns - 1, Math.ceil(2 * radius));
  if (margin < 1) return shifts;
  const wide = columns + 2 * margin;
  const padded = new Float32Array(wide * rows);
  for (let y = 0; y < rows; y++) {
    const from = y * columns;
    const to = y * wide + margin;
    padded.set(shifts.subarray(from, from + columns), to);
    const last = columns - 1;
    for (let k = 1; k <= margin; k++) {
      padded[to - k] = 2 * shifts[from]! - shifts[from + k]!;
      padded[to + last + k] = 2 * shifts[from + last]! - shifts[from + last - k]!;
    }
  }
  const blurred = blurPlane(padded, wide, rows, radius, 2);
  const out = new Float32Array(columns * rows);
  for (let y = 0; y < rows; y++) {
    const from = y * wide + margin;
    out.set(blurred.subarray(from, from + columns), y * columns);
    out[y * columns] = shifts[y * columns]!;
    out[(y + 1) * columns - 1] = shifts[(y + 1) * columns - 1]!;
  }
  return out;
}
