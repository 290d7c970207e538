import { createImage, type RasterImage } from '../../src/core/image/rasterImage.ts';
import { createMask, type Mask } from '../../src/core/mask/mask.ts';
import { createRandom } from '../../src/core/numeric/random.ts';

/** A picture from a colour (R, G, B) for each pixel. */
export function pictureOf(
  width: number,
  height: number,
  colour: (x: number, y: number) => readonly [number, number, number],
): RasterImage {
  const image = createImage(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const levels = colour(x, y);
      const at = 4 * (y * width + x);
      image.data[at] = levels[0];
      image.data[at + 1] = levels[1];
      image.data[at + 2] = levels[2];
      image.data[at + 3] = 255;
    }
  }
  return image;
}

/** A mask from a yes or no for each pixel. */
export function maskOf(width: number, height: number, isMarked: (x: number, y: number) => boolean): Mask {
  const mask = createMask(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) mask.data[y * width + x] = isMarked(x, y) ? 255 : 0;
  }
  return mask;
}

/** Reproducible noise of -`amplitude` to +`amplitude`, called pixel by pixel. */
export function noise(seed: number, amplitude: number): () => number {
  const random = createRandom(seed);
  return () => (random.below(2001) / 1000 - 1) * amplitude;
}

/** A row of text as a mask: '#' marked, anything else not. Rows must be equally long. */
export const maskFromRows = (...rows: string[]): Mask =>
  maskOf(rows[0]!.length, rows.length, (x, y) => rows[y]![x] === '#');

/** The pixels in which two pictures of one size differ by more than `levels`. */
export function differingPixels(a: RasterImage, b: RasterImage, levels = 0): number[] {
  const pixels: number[] = [];
  for (let i = 0; i < a.width * a.height; i++) {
    for (let c = 4 * i; c < 4 * i + 4; c++) {
      if (Math.abs(a.data[c]! - b.data[c]!) > levels) {
        pixels.push(i);
        break;
      }
    }
  }
  return pixels;
}

/** Whether two pictures are the same to the byte; quicker than asking a matcher. */
export const sameBytes = (a: RasterImage, b: RasterImage): boolean =>
  Buffer.compare(Buffer.from(a.data.buffer), Buffer.from(b.data.buffer)) === 0;
