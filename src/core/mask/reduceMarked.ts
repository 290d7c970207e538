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
  const { data } = image;
  const coverage = mark.data;
  for (let row = 0; row < height; row++) {
    const top = row * factor;
    const bottom = Math.min(image.height, top + factor);
    for (let column = 0; column < width; column++) {
      const left = column * factor;
      const right = Math.min(image.width, left + factor);
      let [r, g, b, m] = [0, 0, 0, 0];
      for (let y = top; y < bottom; y++) {
        const end = y * image.width + right;
        for (let i = y * image.width + left; i < end; i++) {
          r += data[4 * i]!;
          g += data[4 * i + 1]!;
          b += data[4 * i + 2]!;
          m += coverage[i]!;
        }
      }
      const cell = row * width + column;
      const count = (bottom - top) * (right - left);
      colour[3 * cell] = r / count;
      colour[3 * cell + 1] = g / count;
      colour[3 * cell + 2] = b / count;
      marked[cell] = m / (255 * count);
    }
  }
  return { width, height, colour, marked };
}
