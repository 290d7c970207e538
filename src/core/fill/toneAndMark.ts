import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Mask } from '../mask/mask.ts';
import { tightMarkGrowth } from './tightMark.ts';
import { measureTone, type ToneMeasures } from './toneMeasure.ts';

/** What is asked of a rebuilt place and its mark. */
interface ToneAndMark {
  /** With what was rebuilt before. */
  picture: RasterImage;
  /** As it was taken. */
  image: RasterImage;
  mark: Mask;
  box: Rect;
  rebuilt: RasterImage;
  area: number;
}

interface ToneAndMarkWork extends ToneAndMark {
  /** The tone's error, then the growth. */
  found: Float64Array;
}

/** Answers one of the two questions. */
function toneAndMarkBand({ picture, image, mark, box, rebuilt, area, found }: ToneAndMarkWork, question: number): void {
  found[question] =
    question === 0 ? measureTone(picture, mark.data, box, rebuilt, area).toneError : tightMarkGrowth(image, mark, box);
}

export const TONE_AND_MARK: BandWork<ToneAndMarkWork> = { name: 'toneAndMark', band: toneAndMarkBand };

/**
 * `measureTone` of a rebuilt place and, one beside the other, by how many px its mark should grow (`tightMarkGrowth`)
 * where that is not known yet.
 */
export function measureToneAndMark(
  asked: ToneAndMark,
  growth: number | undefined,
  { scratch, inBands }: Kernels,
): ToneMeasures & { growth: number } {
  const giveBack = scratch.hold();
  const found = scratch.doubles(2);
  inBands(TONE_AND_MARK, { ...asked, found }, growth === undefined ? 2 : 1);
  const [toneError, growthFound] = found as unknown as [number, number];
  giveBack();
  return { toneError, growth: growth ?? growthFound };
}
