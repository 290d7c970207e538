import type { RasterImage } from '../image/rasterImage.ts';
import type { Mask } from './mask.ts';

/** A reduced picture and how much of each pixel is marked. */
export interface SmallImage {
  width: number;
  height: number;
  /** RGB interleaved, encoded values. */
  colour: Float32Array;
  /** Share of the pixel that is marked. */
  marked: Float32Array;
}

/**
 * The picture and its mark at 1 / `factor` of their size, rounded up: each pixel the plain mean of up to factor x factor,
 * those that the edge cuts off of what there is of them.
 */
export function reduceMarked(image: RasterImage, mark: Mask, factor: number): SmallImage {
  const width = Math.ceil(image.width / factor);
  const height = Math.ceil(image.height / factor);
  const colour = new Float32Array(width * height * 3);
  const marked = new Float32Array(width * height);
  const count = new Float32Array(width * height);
  const columns = Int32Array.from({ length: image.width }, (_, x) => Math.floor(x / factor));
  const { data } = image;
  for (let y = 0; y < image.height; y++) {
    const row = Math.floor(y / factor) * width;
    for (let x = 0; x < image.width; x++) {
      const i = y * image.width + x;
      const cell = row + columns[x]!;
      colour[3 * cell]! += data[4 * i]!;
      colour[3 * cell + 1]! += data[4 * i + 1]!;
      colour[3 * cell + 2]! += data[4 * i + 2]!;
      marked[cell]! += mark.data[i]!;
      count[cell]! += 1;
    }
  }
  for (let cell = 0; cell < count.length; cell++) {
    for (let c = 0; c < 3; c++) colour[3 * cell + c]! /= count[cell]!;
    marked[cell]! /= 255 * count[cell]!;
  }
  return { width, height, colour, marked };
}
