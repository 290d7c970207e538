import { FingoError } from '../errors.ts';
import { intersect, isEmpty, wholeOf, type Rect } from './rect.ts';

/** Straight RGBA, sRGB-encoded, 8 bit, row by row (see CONVENTIONS.md). */
export interface RasterImage {
  width: number;
  height: number;
  data: Uint8ClampedArray<ArrayBuffer>;
}

export const createImage = (width: number, height: number): RasterImage => ({
  width,
  height,
  data: new Uint8ClampedArray(width * height * 4),
});

/**
 * Copies `rect` out of `image`. What lies outside the image comes out transparent black.
 */
export function cropImage(image: RasterImage, rect: Rect): RasterImage {
  const out = createImage(rect.width, rect.height);
  pasteImage(out, { x: -rect.x, y: -rect.y }, image);
  return out;
}

/** Writes `source` into `out` with its top left corner at `at`; what falls outside is dropped. */
export function pasteImage(out: RasterImage, at: { x: number; y: number }, source: RasterImage): void {
  const common = intersect(wholeOf(out), { ...at, width: source.width, height: source.height });
  if (isEmpty(common)) return;
  for (let y = common.y; y < common.y + common.height; y++) {
    const from = ((y - at.y) * source.width + (common.x - at.x)) * 4;
    out.data.set(source.data.subarray(from, from + common.width * 4), (y * out.width + common.x) * 4);
  }
}

/** Throws `size-mismatch` unless both have the same width and height. */
export function requireSameSize(
  a: { width: number; height: number },
  b: { width: number; height: number },
  what: string,
): void {
  if (a.width !== b.width || a.height !== b.height) {
    throw new FingoError(
      'size-mismatch',
      `${what} is ${b.width} x ${b.height} px but the picture is ${a.width} x ${a.height} px; use one of the picture's size.`,
    );
  }
}
