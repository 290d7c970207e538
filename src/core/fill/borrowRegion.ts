import { FingoError } from '../errors.ts';
import { applyAffine, wholeShift, type Affine } from '../image/affine.ts';
import { cropImage, requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { carriedSources } from './carriedSources.ts';
import { mixIntoPhoto } from './mixIntoPhoto.ts';
import { mappedSources } from './mappedSources.ts';
import { copiedPart } from './copiedPart.ts';
import type { Sources } from './sources.ts';
import { closeSeams } from './transfer.ts';

export interface BorrowInput {
  /** The region of the photo; what is marked in it is known only where nothing can be borrowed. */
  image: RasterImage;
  mark: Mask;
  /** Where a point comes from. */
  from: Affine;
}

export interface BorrowedRegion {
  box: Rect;
  /** RGBA of the box in the light of its new place; outside the mark exactly the photo's pixels. */
  image: RasterImage;
  /** The same in the light of where it comes from. */
  inOwnLight: RasterImage;
}

/**
 * Covers what is marked with what lies where one map leads from it, pixel for pixel if that is a shift by whole pixels,
 * and closes the seam in the gradient domain from the mark's rim. Pixels whose source lies outside the picture or is
 * marked itself keep what `image` has there: they are known, and the seam towards them is closed too.
 * P. Perez et al.: Poisson Image Editing, SIGGRAPH, 2003. Throws `no-donors` where nothing at all can be borrowed.
 */
export function borrowRegion({ image, mark, from }: BorrowInput, kernels: Kernels): BorrowedRegion {
  requireSameSize(image, mark, 'The mark');
  const part = borrowable(mark, from);
  const box = boundsOf({ ...mark, data: part });
  if (box.width === 0) {
    throw new FingoError(
      'no-donors',
      'From there nothing can be borrowed: it lies outside the picture or is marked itself; drag somewhere else.',
    );
  }
  const sources = sourcesOf(image, mark, from);
  const inOwnLight = cropImage(image, box);
  sources.copy(part, box, inOwnLight.data);
  const lit = { ...inOwnLight, data: inOwnLight.data.slice() };
  kernels.reset();
  closeSeams(copiedPart({ image, unknown: part, part, box, sources }, kernels), lit.data, kernels);
  mixIntoPhoto(image, mark, box, [lit, inOwnLight]);
  return { box, image: lit, inOwnLight };
}

function sourcesOf(image: RasterImage, mark: Mask, from: Affine): Sources {
  const shift = wholeShift(from);
  if (shift) return carriedSources(image, mark.data, [{ dx: shift.x, dy: shift.y }], () => 0);
  return mappedSources(image, [[from.a, from.b, from.tx, from.c, from.d, from.ty, 0, 0, 1]], () => 0);
}

/** What resampling looks at around a point that lies between pixels. */
const RESAMPLED_PX = 2;

/** 1 where a marked pixel's source lies in the picture and is not marked. */
export function borrowable({ width, height, data }: Mask, from: Affine): Uint8Array<ArrayBuffer> {
  const part = new Uint8Array(data.length);
  const around = wholeShift(from) ? 0 : RESAMPLED_PX;
  const isKnown = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < width && y < height && data[Math.floor(y) * width + Math.floor(x)] === 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!data[y * width + x]) continue;
      const at = applyAffine(from, x + 0.5, y + 0.5);
      const isBorrowable =
        isKnown(at.x - around, at.y - around) &&
        isKnown(at.x + around, at.y - around) &&
        isKnown(at.x - around, at.y + around) &&
        isKnown(at.x + around, at.y + around);
      if (isBorrowable) part[y * width + x] = 1;
    }
  }
  return part;
}
