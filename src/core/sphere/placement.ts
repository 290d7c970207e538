import { createImage, pasteImage, requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Rect, Size } from '../image/rect.ts';

/** A sphere's whole size, and the part of it that a picture shows; px. */
export interface SpherePlacement {
  full: Size;
  part: Rect;
}

export const wholeSphere = ({ width, height }: Size): SpherePlacement => ({
  full: { width, height },
  part: { x: 0, y: 0, width, height },
});

export const isWhole = ({ full, part }: SpherePlacement): boolean =>
  part.width === full.width && part.height === full.height;

/** The whole sphere of a picture that shows a part of it; the rest is transparent. Throws for another part's size. */
export function placedOnSphere(picture: RasterImage, placement: SpherePlacement): RasterImage {
  const { full, part } = placement;
  requireSameSize(part, picture, 'The picture');
  if (isWhole(placement)) return picture;
  const out = createImage(full.width, full.height);
  pasteImage(out, part, picture);
  return out;
}
