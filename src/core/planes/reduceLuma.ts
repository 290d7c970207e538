import type { RasterImage } from '../image/rasterImage.ts';

/** Luma and hole at 1 / `factor` of the size. */
export function reduceLuma(
  { width, height, data }: RasterImage,
  hole: Uint8Array,
  factor: number,
): { width: number; height: number; luma: Float32Array<ArrayBuffer>; hole: Uint8Array<ArrayBuffer> } {
  const w = Math.floor(width / factor);
  const h = Math.floor(height / factor);
  const luma = new Float32Array(w * h);
  const reduced = new Uint8Array(w * h);
  for (let y = 0; y < h * factor; y++) {
    let cell = Math.floor(y / factor) * w;
    for (let i = y * width, end = i + w * factor; i < end; cell++) {
      for (let k = 0; k < factor; k++, i++) {
        luma[cell]! += 0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!;
        if (hole[i]) reduced[cell] = 255;
      }
    }
  }
  for (let cell = 0; cell < luma.length; cell++) luma[cell]! /= factor * factor;
  return { width: w, height: h, luma, hole: reduced };
}
