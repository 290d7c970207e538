import type { DetailMeasures } from './detailMeasure.ts';
import type { RimMeasures } from './rimMeasure.ts';
import type { SeamMeasures } from './seamMeasure.ts';
import type { ToneMeasures } from './toneMeasure.ts';

/** Signs, found without knowing the truth, of how believable a fill is. */
export type FillMeasures = DetailMeasures & SeamMeasures & ToneMeasures & RimMeasures;

/** Past the picture's edge detail and seams tell little: what is expected there is known from one side only. */
const WEIGHTS = { between: { detail: 1, seams: 0.8 }, pastEdge: { detail: 0.3, seams: 0.4 } };
const TONE_WEIGHT = 0.15;
/** A rim that shows is what strikes first. */
const RIM_WEIGHT = 1.5;

/** Where a band's amplitude is less than this, in levels, there is less that a strategy could do worse than others. */
const LIVELY = 2.5;

/** What counts of a strategy's handicap amid surroundings of that liveliness (see `measureDetail`). */
export const handicapAmid = (liveliness: number, handicap: number): number =>
  handicap * Math.min(1, liveliness / LIVELY);

/**
 * By what takes are ordered, the lowest first: how far detail and tones are from what the surroundings let expect, how
 * much seams show, and the rim (docs/decisions/005). `pastEdge`: whether the place lies past the picture's edge.
 */
export function rankOf(
  { detailError, toneError, seamError, rimError }: FillMeasures,
  handicap: number,
  pastEdge: boolean,
): number {
  const weights = pastEdge ? WEIGHTS.pastEdge : WEIGHTS.between;
  const detail = weights.detail * Math.log(3 * detailError + 0.1);
  const tone = TONE_WEIGHT * Math.log(toneError + 0.1);
  const seams = weights.seams * Math.log(seamError + 0.02);
  return detail + tone + seams + RIM_WEIGHT * rimError + handicap;
}
