import { FingoError } from '../core/errors.ts';
import type { Size } from '../core/image/rect.ts';

/** Larger pictures are refused. */
const MAX_PIXELS = 130_000_000;
/** A picture may become so many times as large as it is. */
const MAX_TIMES = 9;

/** Throws `out-of-range` for a size that is too large for the photo or for this application. */
export function requireUsableSize({ width, height }: Size, photo: Size): void {
  const area = width * height;
  const most = Math.min(MAX_PIXELS, MAX_TIMES * photo.width * photo.height);
  if (area <= most) return;
  const megapixels = (px: number): string => `${(px / 1e6).toFixed(px < 1e7 ? 1 : 0)} megapixels`;
  throw new FingoError(
    'out-of-range',
    `A picture of ${megapixels(area)} is too large for this photo; make it ${megapixels(most)} or smaller.`,
  );
}
