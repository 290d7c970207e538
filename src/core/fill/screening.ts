import { blurPlane } from '../image/boxBlur.ts';
import { lumaAt } from '../image/luma.ts';
import { Screening, STRONGEST_SCREENING, type CopiedPart } from './seamSystem.ts';

/** Where nothing would hide a step, it fades over up to so many times as far. */
const FARTHER = 16;
/** Levels that luma rises and falls over two squares from which on texture counts as lively. */
const LIVELY_RISE = 16;
/** Squares of so many px, over which grain averages out; liveliness is taken over so many of them around. */
const SQUARE_PX = 4;
const SQUARES_AROUND = 4;

/** Adds a row of copied pixels to the sums of the squares it crosses. */
function addRow(
  part: Uint8Array,
  row: number,
  length: number,
  out: Uint8ClampedArray,
  outRow: number,
  luma: Float32Array,
  count: Float32Array,
  squares: number,
): void {
  for (let x = 0; x < length; x++) {
    if (!part[row + x]) continue;
    const i = squares + Math.floor(x / SQUARE_PX);
    luma[i] = luma[i]! + lumaAt(out, 4 * (outRow + x));
    count[i] = count[i]! + 1;
  }
}

/** Pulls that are the weaker the smoother what was copied there is (`out`, RGBA of the part's box). */
export function screeningOf({ image, part, box }: CopiedPart, out: Uint8ClampedArray): Screening {
  const width = Math.ceil(box.width / SQUARE_PX);
  const height = Math.ceil(box.height / SQUARE_PX);
  const luma = new Float32Array(width * height);
  const count = new Float32Array(width * height);
  for (let y = 0; y < box.height; y++) {
    const squares = Math.floor(y / SQUARE_PX) * width;
    addRow(part, (y + box.y) * image.width + box.x, box.width, out, y * box.width, luma, count, squares);
  }
  const inside = count.map((n) => (n > 0 ? 1 : 0));
  const rise = new Float32Array(width * height);
  const far = (a: number, b: number): number =>
    count[a]! > 0 && count[b]! > 0 ? Math.abs(luma[a]! / count[a]! - luma[b]! / count[b]!) : 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (count[i] === 0) continue;
      const across = far(i - Math.min(1, x), i + Math.min(1, width - 1 - x));
      const down = far(i - width * Math.min(1, y), i + width * Math.min(1, height - 1 - y));
      rise[i] = across + down;
    }
  }
  const sum = blurPlane(rise, width, height, SQUARES_AROUND);
  const share = blurPlane(inside, width, height, SQUARES_AROUND);
  const pull = sum.map((value, i) => {
    const around = share[i]! > 0 ? value / share[i]! : 0;
    return STRONGEST_SCREENING * Math.max(1 / FARTHER ** 2, Math.min(1, (around / LIVELY_RISE) ** 2));
  });
  return new Screening(box, SQUARE_PX, pull);
}
