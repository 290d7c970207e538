import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Mask } from '../mask/mask.ts';
import { readKnownLuma, roomForLuma, type KnownLuma } from './detailMeasure.ts';
import { followOutlines, type OutlineWork } from './rimPath.ts';
import { tightMarkGrowth } from './tightMark.ts';
import { expectTones, roomForTones, type ToneCells } from './toneMeasure.ts';

/** What a mark and its surroundings tell, whatever is rebuilt between them, and room for it. */
export interface Surroundings {
  image: RasterImage;
  mark: Mask;
  box: Rect;
  /** One number, by how many px the mark should grow; empty where that need not be found out. */
  growth: Float64Array;
  tones: ToneCells;
  luma: KnownLuma;
}

/** Room for what is told by `image` around a mark of `area` px; the room stays in the kernels' scratch. */
export function roomForSurroundings(
  image: RasterImage,
  mark: Mask,
  box: Rect,
  area: number,
  growthIsKnown: boolean,
  kernels: Kernels,
): Surroundings {
  return {
    image,
    mark,
    box,
    growth: kernels.scratch.doubles(growthIsKnown ? 0 : 1),
    tones: roomForTones(image, box, area, kernels),
    luma: roomForLuma(image, mark.data, box, kernels),
  };
}

interface KnownWork {
  outlines?: OutlineWork | undefined;
  surroundings?: Surroundings | undefined;
}

function findOut({ outlines, surroundings }: KnownWork): void {
  if (outlines) followOutlines(outlines);
  if (!surroundings) return;
  const { image, mark, box, growth, tones, luma } = surroundings;
  if (growth.length > 0) growth[0] = tightMarkGrowth(image, mark, box);
  expectTones(image, mark.data, tones);
  readKnownLuma(luma);
}

/** What needs nothing but what is known: it can be found out beside the joining of pieces, which is for one thread. */
export const KNOWN_WORK: BandWork<KnownWork> = { name: 'knownWork', band: findOut };
