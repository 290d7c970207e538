import { intersect, isEmpty, wholeOf, type Rect } from '../image/rect.ts';

/** One byte a pixel: 0 = not meant, 255 = fully meant (see CONVENTIONS.md). */
export interface Mask {
  width: number;
  height: number;
  data: Uint8Array<ArrayBuffer>;
}

export const createMask = (width: number, height: number, value = 0): Mask => {
  const data = new Uint8Array(width * height);
  if (value) data.fill(value);
  return { width, height, data };
};

/** 255 wherever anything is marked, however faintly. */
export const wholly = (mask: Mask): Mask => ({ ...mask, data: mask.data.map((value) => (value ? 255 : 0)) });

/** The smallest rectangle that holds every pixel with coverage >= `threshold` (at least 1); empty when there is none. */
export function boundsOf(mask: Mask, threshold = 1): Rect {
  const { width, height, data } = mask;
  const words = data.byteOffset % 4 ? undefined : new Int32Array(data.buffer, data.byteOffset, data.length >> 2);
  let x0 = width;
  let x1 = -1;
  let y0 = -1;
  let y1 = -1;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const first = firstMarked(data, words, row, row + width, threshold) - row;
    if (first === width) continue;
    const last = lastMarked(data, words, row + Math.max(first, x1), row + width - 1, threshold) - row;
    if (y0 < 0) y0 = y;
    y1 = y;
    if (first < x0) x0 = first;
    if (last > x1) x1 = last;
  }
  if (y0 < 0) return { x: 0, y: 0, width: 0, height: 0 };
  return { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
}

/** The first of the pixels `from` to `to` at `threshold` or above, else `to`. Four at a time: most of a mark is empty. */
function firstMarked(
  data: Uint8Array,
  words: Int32Array | undefined,
  from: number,
  to: number,
  threshold: number,
): number {
  for (let i = from; i < to; i++) {
    if (words && i % 4 === 0) {
      let w = i >> 2;
      const end = to >> 2;
      while (w + 4 <= end && (words[w]! | words[w + 1]! | words[w + 2]! | words[w + 3]!) === 0) w += 4;
      while (w < end && words[w] === 0) w++;
      i = 4 * w;
    }
    if (i < to && data[i]! >= threshold) return i;
  }
  return to;
}

/** The last of the pixels from `to` down to `from` at `threshold` or above, else `from`. */
function lastMarked(
  data: Uint8Array,
  words: Int32Array | undefined,
  from: number,
  to: number,
  threshold: number,
): number {
  for (let i = to; i > from; i--) {
    if (words && i % 4 === 3) {
      let w = i >> 2;
      const end = (from >> 2) + 1;
      while (w - 3 >= end && (words[w]! | words[w - 1]! | words[w - 2]! | words[w - 3]!) === 0) w -= 4;
      while (w >= end && words[w] === 0) w--;
      i = 4 * w + 3;
    }
    if (i > from && data[i]! >= threshold) return i;
  }
  return from;
}

/** Copies `rect` out of `mask`; what lies outside is 0. */
export function cropMask(mask: Mask, rect: Rect): Mask {
  const out = createMask(rect.width, rect.height);
  pasteMask(out, { x: -rect.x, y: -rect.y }, mask);
  return out;
}

/** Writes `source` into `out` with its top left corner at `at`; what falls outside is dropped. */
export function pasteMask(out: Mask, at: { x: number; y: number }, source: Mask): void {
  const common = intersect(wholeOf(out), { ...at, width: source.width, height: source.height });
  if (isEmpty(common)) return;
  for (let y = common.y; y < common.y + common.height; y++) {
    const from = (y - at.y) * source.width + (common.x - at.x);
    out.data.set(source.data.subarray(from, from + common.width), y * out.width + common.x);
  }
}

/** Sum of coverage in full pixels (a pixel at 128 counts about half). */
export function areaOf(mask: Mask): number {
  let sum = 0;
  const { data } = mask;
  for (let i = 0; i < data.length; i++) sum += data[i]!;
  return sum / 255;
}
