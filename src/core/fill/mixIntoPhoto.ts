import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Mask } from '../mask/mask.ts';

/** What was rebuilt, in the light of its place and, as it was copied, in its own. RGBA of the same box. */
export interface Lit {
  image: RasterImage;
  inOwnLight: RasterImage;
}

/** Copied pixels partly in their own light: 0 = all their own, 1 = that of the place. */
export function inLight({ image, inOwnLight }: Lit, light: number): RasterImage {
  if (light === 1) return image;
  const data = inOwnLight.data.slice();
  if (light > 0) for (let i = 0; i < data.length; i++) data[i] = data[i]! + light * (image.data[i]! - data[i]!);
  return { ...image, data };
}

/** Mixes pictures of what was rebuilt in a box with the photo where the mark is partial. In place. */
export function mixIntoPhoto(image: RasterImage, mark: Mask, box: Rect, rebuilt: readonly RasterImage[]): void {
  for (let y = 0; y < box.height; y++) {
    const row = (y + box.y) * image.width + box.x;
    const covered = mark.data.subarray(row, row + box.width);
    for (let x = 0; x < covered.length; x++) {
      const coverage = covered[x]!;
      if (coverage === 0 || coverage === 255) continue;
      const i = 4 * (y * box.width + x);
      for (const { data } of rebuilt) {
        for (let c = 0; c < 3; c++) {
          data[i + c] = (data[i + c]! * coverage + image.data[4 * (row + x) + c]! * (255 - coverage)) / 255;
        }
      }
    }
  }
}
