import type { Size } from '../../core/image/rect.ts';
import { areaOf } from '../../core/mask/mask.ts';
import type { Mark } from './markSchema.ts';
import { renderMark } from './renderMark.ts';

/** A share of the photo in words, to one decimal below 10 %. */
export function shareOfPicture(areaPx: number, photo: Size): string {
  const percent = (100 * areaPx) / (photo.width * photo.height);
  return `${percent < 10 ? Math.max(0.1, percent).toFixed(1) : Math.round(percent)} % of the picture`;
}

/** A mark in words. */
export const describeMark = (mark: Mark, photo: Size): string =>
  shareOfPicture(areaOf(renderMark(mark, photo).mask), photo);
