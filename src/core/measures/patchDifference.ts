import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';

interface PlacedImage {
  rect: Rect;
  image: RasterImage;
}

const SAMPLED_PIXELS = 60_000;

/**
 * Mean absolute difference, in 8-bit levels over R, G and B, of two results of one change over an even
 * sample of at most about 60,000 pixels of each rectangle. Results whose rectangles differ count as wholly different (255).
 */
export function patchDifference(a: readonly PlacedImage[], b: readonly PlacedImage[]): number {
  if (a.length !== b.length) return 255;
  let sum = 0;
  let count = 0;
  for (let k = 0; k < a.length; k++) {
    const [p, q] = [a[k]!, b[k]!];
    if (JSON.stringify(p.rect) !== JSON.stringify(q.rect)) return 255;
    // An odd stride keeps the sample from running along one column.
    const stride = 4 * (Math.floor(p.image.data.length / 4 / SAMPLED_PIXELS) | 1);
    for (let i = 0; i < p.image.data.length; i += stride) {
      let difference = 0;
      for (let c = i; c < i + 3; c++) difference += Math.abs(p.image.data[c]! - q.image.data[c]!);
      sum += difference / 3;
      count++;
    }
  }
  return sum / Math.max(1, count);
}
