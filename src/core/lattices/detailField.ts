import { blurPlane } from '../image/boxBlur.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { reduceLuma } from '../planes/reduceLuma.ts';

/** What of a picture shows structure, at 1 / `factor` of its size. */
export interface DetailField {
  width: number;
  height: number;
  /** Luma less its mean around, in levels; 0 where not known. */
  detail: Float32Array;
  /** Its change to the right and down, levels a reduced px. */
  dx: Float32Array;
  dy: Float32Array;
  /** Detail of so many levels is usual texture or grain. */
  texture: number;
  /** 1 where a pixel and those next to it are known. */
  isKnown: Uint8Array;
  /** Not 0 where any of a pixel is unknown. */
  hole: Uint8Array;
}

/** Detail is what differs from the mean of so many reduced px around. */
const AROUND_PX = 5;
const BLUR_PX = 0.6;
/** Detail weaker than so many levels is grain, stronger than so many structure. */
export const GRAIN = 2.5;
const MOST_TEXTURE = 10;

/** The detail around a hole (not 0), of the picture reduced by a whole factor; what is unknown has no share in it. */
export function detailField(image: RasterImage, hole: Hole, factor: number): DetailField {
  const { width, height, luma, hole: unknown } = reduceLuma(image, hole, factor);
  const n = width * height;
  const weight = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    weight[i] = unknown[i] ? 0 : 1;
    luma[i]! *= weight[i]!;
  }
  const [near, around] = [BLUR_PX, AROUND_PX].map((radius) => {
    const share = blurPlane(weight, width, height, radius);
    const sum = blurPlane(luma, width, height, radius);
    return sum.map((value, i) => (share[i]! > 1e-3 ? value / share[i]! : 0));
  }) as [Float32Array, Float32Array];
  const detail = near.map((value, i) => (unknown[i] ? 0 : value - around[i]!));
  const [dx, dy, isKnown] = [new Float32Array(n), new Float32Array(n), new Uint8Array(n)];
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      if (unknown[i] || unknown[i - 1] || unknown[i + 1] || unknown[i - width] || unknown[i + width]) continue;
      isKnown[i] = 1;
      dx[i] = (detail[i + 1]! - detail[i - 1]!) / 2;
      dy[i] = (detail[i + width]! - detail[i - width]!) / 2;
    }
  }
  const sizes = detail
    .filter((_, i) => i % 5 === 0 && isKnown[i] === 1)
    .map(Math.abs)
    .sort();
  const texture = Math.min(MOST_TEXTURE, Math.max(GRAIN, 1.48 * (sizes[sizes.length >> 1] ?? 0)));
  return { width, height, texture, detail, dx, dy, isKnown, hole: unknown };
}

/** Detail and its changes between pixels; false where not all of it is known. */
export function sampled(field: DetailField, x: number, y: number, out: Float64Array): boolean {
  const { width, height, detail, dx, dy, isKnown } = field;
  const [u, v] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  if (!(u >= 0 && v >= 0 && u + 1 < width && v + 1 < height)) return false;
  const i = v * width + u;
  if (!isKnown[i] || !isKnown[i + 1] || !isKnown[i + width] || !isKnown[i + width + 1]) return false;
  const [a, b] = [x - 0.5 - u, y - 0.5 - v];
  const [w00, w10, w01, w11] = [(1 - a) * (1 - b), a * (1 - b), (1 - a) * b, a * b];
  out[0] = w00 * detail[i]! + w10 * detail[i + 1]! + w01 * detail[i + width]! + w11 * detail[i + width + 1]!;
  out[1] = w00 * dx[i]! + w10 * dx[i + 1]! + w01 * dx[i + width]! + w11 * dx[i + width + 1]!;
  out[2] = w00 * dy[i]! + w10 * dy[i + 1]! + w01 * dy[i + width]! + w11 * dy[i + width + 1]!;
  return true;
}
