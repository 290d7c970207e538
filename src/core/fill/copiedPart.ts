import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Hole, PartMask } from '../mask/byteMasks.ts';
import { SHORTEST_FADE_PX } from './screeningField.ts';
import { countRim, isSoft } from './softRim.ts';
import type { Sources } from './sources.ts';
import { wholeSources } from './wholeSources.ts';

/** A part of the hole with what was copied into it. */
export interface CopiedPart {
  /** The region of the photo, and which of its pixels are not known (non-zero). */
  image: RasterImage;
  unknown: Hole;
  /** Region size: non-zero where the part was copied; its box. */
  part: PartMask;
  box: Rect;
  sources: Sources;
  /** Whether it is a thing of its own: then what it is put beside, where that differs, has no say in its tone. */
  isThing?: boolean;
  /** Over at least so many px differences in tone fade. */
  leastFade: number;
  /** For each pixel of the box that was copied, with which it was copied together. */
  groups: Float64Array;
  /** Whether nothing around is sharp: then every step is closed, however large, and tones are evened out far. */
  liesInSoft: boolean;
}

/** What was copied from `sources`, with its groups, which live in the kernels' scratch. */
export function copiedPart(
  {
    image,
    unknown,
    part,
    box,
    sources,
    isThing = false,
    leastFade = SHORTEST_FADE_PX,
  }: Omit<CopiedPart, 'groups' | 'liesInSoft' | 'leastFade'> & Partial<Pick<CopiedPart, 'leastFade'>>,
  kernels: Kernels,
): CopiedPart {
  const groups = kernels.scratch.doubles(box.width * box.height);
  const copied = { image, unknown, part, box, sources, isThing, leastFade, groups, liesInSoft: false };
  const bands = rowBands(box.height);
  const looked = kernels.scratch.ints(bands);
  const sharp = kernels.scratch.ints(bands);
  const outstanding = kernels.scratch.ints(bands);
  kernels.inBands(GROUPS, { copied, looked, sharp, outstanding }, bands);
  const sum = (counts: Int32Array): number => counts.reduce((total, count) => total + count, 0);
  copied.liesInSoft = !isThing && isSoft({ looked: sum(looked), sharp: sum(sharp), outstanding: sum(outstanding) });
  return copied;
}

interface GroupsWork {
  copied: CopiedPart;
  /** What is counted along the rim, of each band. */
  looked: Int32Array;
  sharp: Int32Array;
  outstanding: Int32Array;
}

/** Notes the groups of a band of the box's rows, and what lies before the rim there. */
function groupsBand({ copied, looked, sharp, outstanding }: GroupsWork, band: number): void {
  const { image, unknown, part, box, sources, groups } = copied;
  const whole = wholeSources(sources);
  const { from, to } = rowsOfBand(band, box.height);
  for (let y = from; y < to; y++) {
    const row = (y + box.y) * image.width + box.x;
    for (let x = 0; x < box.width; x++) {
      if (part[row + x]) groups[y * box.width + x] = whole.groupAt(x + box.x, y + box.y);
    }
    const rim = countRim(image, unknown, part, box, y + box.y);
    looked[band]! += rim.looked;
    sharp[band]! += rim.sharp;
    outstanding[band]! += rim.outstanding;
  }
}

export const GROUPS: BandWork<GroupsWork> = { name: 'groups', band: groupsBand };
