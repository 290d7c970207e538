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

/** The smallest rectangle that holds every pixel with coverage >= `threshold`; empty when there is none. */
export function boundsOf(mask: Mask, threshold = 1): Rect {
  const { width, data } = mask;
  let x0 = width;
  let x1 = -1;
  let y0 = -1;
  let y1 = -1;
  const [from, to] = markedRows(mask);
  for (let y = from; y < to; y++) {
    const row = y * width;
    let first = 0;
    while (first < width && data[row + first]! < threshold) first++;
    if (first === width) continue;
    let last = width - 1;
    while (data[row + last]! < threshold) last--;
    if (y0 < 0) y0 = y;
    y1 = y;
    if (first < x0) x0 = first;
    if (last > x1) x1 = last;
  }
  if (y0 < 0) return { x: 0, y: 0, width: 0, height: 0 };
  return { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
}

/** The first row in which anything is marked, and one past the last. Four pixels at a time: most of a mark is empty. */
function markedRows({ width, height, data }: Mask): [number, number] {
  if (data.byteOffset % 4) return [0, height];
  const words = new Uint32Array(data.buffer, data.byteOffset, data.length >> 2);
  let first = 0;
  while (first < words.length && words[first] === 0) first++;
  let last = words.length - 1;
  while (last >= first && words[last] === 0) last--;
  // What is left over when pixels are taken by fours counts as marked.
  const end = data.length % 4 ? data.length : 4 * (last + 1);
  return [Math.floor((4 * first) / width), Math.ceil(end / width)];
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
