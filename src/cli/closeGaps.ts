import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Mask } from '../core/mask/mask.ts';
import { clearOperation } from '../operations/clear/index.ts';
import { markFromMask } from '../operations/marks/renderMark.ts';
import { pictureOf, workshopOn } from './changePhoto.ts';

/** A picture with its gaps rebuilt: the best of one round's first take. */
export async function closeGaps(image: RasterImage, gaps: Mask): Promise<RasterImage> {
  const workshop = workshopOn(image, 'gaps');
  const params = clearOperation.schema.parse({
    mark: markFromMask(gaps),
    take: { strategy: clearOperation.strategies[0], seed: 1 },
  });
  const signal = new AbortController().signal;
  const [take] = await workshop.makeTakes(workshop.origin, 'clear', params, 0, { signal, count: 1 });
  return pictureOf(await workshop.after(workshop.origin, 'clear', params, take!.result));
}
