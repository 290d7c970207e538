import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Mask } from '../mask/mask.ts';
import { tightMarkGrowth } from './tightMark.ts';
import {
  channelTone,
  judgeCells,
  roomForTones,
  TONE_CELLS,
  toneErrorOf,
  type ChannelTone,
  type ToneCells,
  type ToneMeasures,
} from './toneMeasure.ts';

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

/** Numbers that a question is answered with, at most. */
const ANSWER = 5;
const QUESTIONS = 4;

interface ToneAndMarkWork extends Pick<ToneAndMark, 'image' | 'mark' | 'box'> {
  cells: ToneCells;
  /** ANSWER numbers a question. */
  answers: Float64Array;
}

/** Answers one question: how far the mark should grow (0), what a channel's tones are (1 to 3). */
function toneAndMarkBand({ image, mark, box, cells, answers }: ToneAndMarkWork, question: number): void {
  answers.set(
    question === 0 ? [tightMarkGrowth(image, mark, box)] : channelTone(cells, question - 1),
    ANSWER * question,
  );
}

export const TONE_AND_MARK: BandWork<ToneAndMarkWork> = { name: 'toneAndMark', band: toneAndMarkBand };

/**
 * How far the tones of a rebuilt place are off (see `channelTone`) and, beside that, by how many px its mark should grow
 * (`tightMarkGrowth`) where that is not known yet.
 */
export function measureToneAndMark(
  { picture, image, mark, box, rebuilt, area }: ToneAndMark,
  growth: number | undefined,
  kernels: Kernels,
): ToneMeasures & { growth: number } {
  const giveBack = kernels.scratch.hold();
  const cells = roomForTones(picture, box, area, kernels);
  kernels.inBands(TONE_CELLS, { place: { image: picture, hole: mark.data, box, rebuilt }, cells }, cells.height);
  judgeCells(cells);
  const answers = kernels.scratch.doubles(ANSWER * QUESTIONS);
  const first = growth === undefined ? 0 : 1;
  kernels.inBands(TONE_AND_MARK, { image, mark, box, cells, answers }, QUESTIONS - first, first);
  const answer = (question: number): ChannelTone =>
    [...answers.subarray(ANSWER * question, ANSWER * (question + 1))] as ChannelTone;
  const toneError = toneErrorOf([answer(1), answer(2), answer(3)]);
  const growthFound = answers[0]!;
  giveBack();
  return { toneError, growth: growth ?? growthFound };
}
