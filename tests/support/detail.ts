import { measureDetail, readKnownLuma, roomForLuma, type Detail } from '../../src/core/fill/detailMeasure.ts';
import type { RasterImage } from '../../src/core/image/rasterImage.ts';
import type { Kernels } from '../../src/core/kernels/kernels.ts';
import { boundsOf, type Mask } from '../../src/core/mask/mask.ts';

/** The detail of `place`, which fills a mark's box. */
export function detailOf(photo: RasterImage, mark: Mask, place: RasterImage, kernels: Kernels): Detail {
  const box = boundsOf(mark);
  const known = roomForLuma(photo, mark.data, box, kernels);
  readKnownLuma(known);
  return measureDetail(known, box, place, kernels);
}
