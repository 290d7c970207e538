import { createImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import type { Size } from '../image/rect.ts';

/** Where a picture lies on its sphere, whose whole size is given; px of the sphere. */
export interface SpherePlacement {
  full: Size;
  left: number;
  top: number;
}

export const isWhole = (picture: Size, { full }: SpherePlacement): boolean =>
  picture.width === full.width && picture.height === full.height;

/** The whole sphere of a picture that shows a part of it; the rest is transparent. */
export function placedOnSphere(picture: RasterImage, placement: SpherePlacement): RasterImage {
  if (isWhole(picture, placement)) return picture;
  const { full, left, top } = placement;
  const out = createImage(full.width, full.height);
  pasteImage(out, { x: left, y: top }, picture);
  return out;
}
