import type { RasterImage } from '../image/rasterImage.ts';

/** What lies so many px above and below a pixel is what it is compared with. */
const APART_PX = 8;
/** Rows of fewer pixels tell nothing. */
const FEWEST_IN_ROW = 50;

/**
 * How much of what changes down the columns of a picture changes for a whole row at once, 0..1: near 1 for boards or
 * stripes that lie along the rows, some .5 for courses of bricks, near 0 for stones in any order. Of RGBA; green stands
 * for luma, and only opaque pixels count.
 */
export function rowShare({ data, width, height }: RasterImage): number {
  const apart = APART_PX * width;
  let [ofRows, all] = [0, 0];
  for (let y = APART_PX; y < height - APART_PX; y++) {
    let [sum, squares, count] = [0, 0, 0];
    for (let i = y * width; i < (y + 1) * width; i++) {
      const [above, here, below] = [4 * (i - apart), 4 * i, 4 * (i + apart)];
      if (data[above + 3] !== 255 || data[here + 3] !== 255 || data[below + 3] !== 255) continue;
      const change = data[here + 1]! - 0.5 * (data[above + 1]! + data[below + 1]!);
      sum += change;
      squares += change * change;
      count++;
    }
    if (count < FEWEST_IN_ROW) continue;
    ofRows += (sum * sum) / count;
    all += squares;
  }
  return all > 0 ? ofRows / all : 0;
}
