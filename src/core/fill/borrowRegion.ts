import { FingoError } from '../errors.ts';
import { cropImage, requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { carriedSources } from './carriedSources.ts';
import { mixIntoPhoto } from './fill.ts';
import { copiedPart } from './seamSystem.ts';
import { closeSeams } from './transfer.ts';

export interface BorrowInput {
  /** The region of the photo; what is marked in it is known only where nothing can be borrowed. */
  image: RasterImage;
  mark: Mask;
  /** Where a pixel comes from: so many px from it. */
  from: { dx: number; dy: number };
}

export interface BorrowedRegion {
  box: Rect;
  /** RGBA of the box in the light of its new place; outside the mark exactly the photo's pixels. */
  image: RasterImage;
  /** The same in the light of where it comes from. */
  inOwnLight: RasterImage;
  /** Mean colour step, in levels, between what is borrowed and the place around it before its seam is closed. */
  rimStep: number;
}

/**
 * Covers what is marked with what lies at one offset from it, pixel for pixel, and closes the seam in the gradient
 * domain from the mark's rim. Pixels whose source lies outside the picture or is marked itself keep what `image` has
 * there: they are known, and the seam towards them is closed too.
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
  const sources = carriedSources(image, mark.data, [from], () => 0);
  const inOwnLight = cropImage(image, box);
  sources.copy(part, box, inOwnLight.data);
  const lit = { ...inOwnLight, data: inOwnLight.data.slice() };
  kernels.reset();
  closeSeams(copiedPart({ image, unknown: part, part, box, sources }), lit.data, kernels);
  const rimStep = stepAtRim(image, part, from);
  mixIntoPhoto(image, mark, box, lit);
  mixIntoPhoto(image, mark, box, inOwnLight);
  return { box, image: lit, inOwnLight, rimStep };
}

/** 1 where a marked pixel's source lies in the picture and is not marked. */
export function borrowable(
  { width, height, data }: Mask,
  { dx, dy }: { dx: number; dy: number },
): Uint8Array<ArrayBuffer> {
  const part = new Uint8Array(data.length);
  for (let y = 0; y < height; y++) {
    const v = y + dy;
    if (v < 0 || v >= height) continue;
    for (let x = 0; x < width; x++) {
      const u = x + dx;
      if (data[y * width + x] && u >= 0 && u < width && !data[v * width + u]) part[y * width + x] = 1;
    }
  }
  return part;
}

function stepAtRim({ width, data }: RasterImage, part: Uint8Array, { dx, dy }: { dx: number; dy: number }): number {
  let sum = 0;
  let count = 0;
  for (let i = width + 1; i < part.length; i++) {
    if (!part[i] || (part[i - 1] && part[i - width])) continue;
    const known = part[i - 1] ? i - width : i - 1;
    const source = known + dy * width + dx;
    if (source < 0 || source >= part.length) continue;
    for (let c = 0; c < 3; c++) sum += Math.abs(data[4 * known + c]! - data[4 * source + c]!) / 3;
    count++;
  }
  return sum / Math.max(1, count);
}
