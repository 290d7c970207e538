import type { Size } from '../../core/image/rect.ts';

/** A share of the photo in words, to one decimal below 10 %. */
export function shareOfPicture(areaPx: number, photo: Size): string {
  const percent = (100 * areaPx) / (photo.width * photo.height);
  return `${percent < 10 ? Math.max(0.1, percent).toFixed(1) : Math.round(percent)} % of the picture`;
}
