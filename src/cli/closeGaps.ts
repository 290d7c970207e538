import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Mask } from '../core/mask/mask.ts';
import type { StepKind } from '../operations/kind.ts';
import { KINDS } from '../operations/kinds.ts';
import { markFromMask } from '../operations/marks/renderMark.ts';
import { pictureOf, workshopOn } from './writeTakes.ts';

/** A picture with its gaps rebuilt: the best of one round's first take. */
export async function closeGaps(image: RasterImage, gaps: Mask): Promise<RasterImage> {
  const workshop = workshopOn(image, 'gaps');
  const [{ type, schema, strategies }] = KINDS as [StepKind];
  const params = schema.parse({ mark: markFromMask(gaps), take: { strategy: strategies[0], seed: 1 } });
  const signal = new AbortController().signal;
  const [take] = await workshop.makeTakes(workshop.origin, type, params, 0, { signal, count: 1 });
  return pictureOf(await workshop.after(workshop.origin, type, params, take!.result));
}
