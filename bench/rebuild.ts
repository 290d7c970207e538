import { fillRegion, type FillResult } from '../src/core/fill/fill.ts';
import { planFillRegion } from '../src/core/fill/planRegion.ts';
import { FILL_STRATEGIES, type FillStrategy } from '../src/core/fill/strategy.ts';
import { cropImage, pasteImage, type RasterImage } from '../src/core/image/rasterImage.ts';
import { translate } from '../src/core/image/rect.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { boundsOf, cropMask, type Mask } from '../src/core/mask/mask.ts';
import { drain } from '../src/core/progress.ts';
import { MAX_TAKES } from '../src/operations/takes.ts';

/** The strategies of a first round of takes. */
export const FIRST_ROUND: readonly FillStrategy[] = FILL_STRATEGIES.slice(0, MAX_TAKES);

export interface Rebuilt {
  fill: FillResult;
  /** Milliseconds by the clock, cutting the region out included. */
  ms: number;
  /** Milliseconds of processor time over all threads. */
  cpuMs: number;
  /** The whole picture with the place rebuilt. */
  picture(): RasterImage;
}

export function rebuild(photo: RasterImage, mark: Mask, strategy: FillStrategy, kernels: Kernels): Rebuilt {
  // Known beforehand, as it is of an outline that was drawn.
  const bounds = boundsOf(mark);
  const cpu = process.cpuUsage();
  const start = performance.now();
  const region = planFillRegion(bounds, photo);
  const input = { image: cropImage(photo, region), mark: cropMask(mark, region), strategy, seed: 1 };
  const fill = drain(fillRegion(input, kernels));
  const ms = performance.now() - start;
  const { user, system } = process.cpuUsage(cpu);
  return {
    fill,
    ms,
    cpuMs: (user + system) / 1000,
    picture() {
      const out = { ...photo, data: photo.data.slice() };
      pasteImage(out, translate(fill.box, region.x, region.y), fill.image);
      return out;
    },
  };
}
