import { lumaAt } from '../image/luma.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Hole } from '../mask/byteMasks.ts';

/** Luma and hole at 1 / `factor` of the size. */
export function reduceLuma(
  { width, height, data }: RasterImage,
  hole: Hole,
  factor: number,
): { width: number; height: number; luma: Float32Array<ArrayBuffer>; hole: Uint8Array<ArrayBuffer> } {
  const w = Math.floor(width / factor);
  const h = Math.floor(height / factor);
  const luma = new Float32Array(w * h);
  const reduced = new Uint8Array(w * h);
  for (let y = 0; y < h * factor; y++) {
    let cell = Math.floor(y / factor) * w;
    for (let i = y * width, end = i + w * factor; i < end; cell++) {
      let sum = luma[cell]!;
      let holes = 0;
      for (let k = 0; k < factor; k++, i++) {
        sum = Math.fround(sum + lumaAt(data, 4 * i));
        holes |= hole[i]!;
      }
      luma[cell] = sum;
      if (holes) reduced[cell] = 255;
    }
  }
  for (let cell = 0; cell < luma.length; cell++) luma[cell]! /= factor * factor;
  return { width: w, height: h, luma, hole: reduced };
}
