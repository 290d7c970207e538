import type { RasterImage } from '../image/rasterImage.ts';
import { cropImage, requireSameSize } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { combineMasks } from '../mask/combine.ts';
import { areaOf, boundsOf, createMask, cropMask, pasteMask, type Mask } from '../mask/mask.ts';
import { sweepMask } from '../mask/sweepMask.ts';
import { findShadow } from './findShadow.ts';
import { findSubjectMatte } from './findSubjectMatte.ts';

/** As shares of the mark's size (square root of its area): so far behind it the thing is looked for, and may go on. */
const BEHIND_SHARE = 0.25;
const GOES_ON_SHARE = 1;
const AROUND_SHARE = 0.6;
const AROUND_PX = 8;

/**
 * The end of a thing inside a loose mark, with the shadow it casts there, as a soft matte of the picture's size (255 =
 * wholly the thing): a subject that goes on beyond the mark on the side away from (dx, dy), where its end points.
 * Undefined where nothing in the mark stands out.
 */
export function findEnd(
  picture: RasterImage,
  whole: Mask,
  { dx, dy }: { dx: number; dy: number },
  kernels: Kernels,
): Mask | undefined {
  requireSameSize(picture, whole, 'The mark');
  const size = Math.sqrt(areaOf(whole));
  const length = Math.hypot(dx, dy);
  if (size === 0 || length === 0) return undefined;
  const near = intersect(inflate(boundsOf(whole), Math.ceil(AROUND_SHARE * size) + AROUND_PX), wholeOf(picture));
  const image = cropImage(picture, near);
  const mark = cropMask(whole, near);
  const sweptBack = (share: number): Mask =>
    sweepMask(mark, (-dx * share * size) / length, (-dy * share * size) / length);
  const drawn = sweptBack(BEHIND_SHARE);
  const matte = findSubjectMatte(image, drawn, { generosity: 0, unseen: sweptBack(GOES_ON_SHARE) }, kernels);
  if (matte === drawn) return undefined;
  const found = combineMasks(matte, findShadow(image, matte, kernels), 'also');
  const end = createMask(picture.width, picture.height);
  pasteMask(end, near, combineMasks(found, mark, 'onlyBoth'));
  return end;
}
