import type { DetailMeasures } from './detailMeasure.ts';
import type { RimMeasures } from './rimMeasure.ts';
import type { SeamMeasures } from './seamMeasure.ts';
import type { ToneMeasures } from './toneMeasure.ts';

/** Signs, found without knowing the truth, of how believable a fill is. */
export interface FillMeasures extends DetailMeasures, SeamMeasures, ToneMeasures, RimMeasures {
  /** See `repeatShare`. */
  repeatShare: number;
  /**
   * How long the seams are at which one thing ends and another begins: pixels on both of their sides per side of a square
   * as large as the place.
   */
  cutLength: number;
}

/**
 * Past the picture's edge detail and seams tell little: what is expected there is known from one side only. But what is
 * cut off tells that something was set down that does not belong there; amid known pixels it tells nothing.
 */
const WEIGHTS = { between: { detail: 1, seams: 1.2, cuts: 0 }, pastEdge: { detail: 0.3, seams: 0.4, cuts: 1.2 } };
const TONE_WEIGHT = 0.15;
/** A rim that shows is what strikes first. */
const RIM_WEIGHT = 1.5;

/** What is set down again and again is no mistake in any place of its own. */
const REPEAT_WEIGHT = 0.25;
/** What takes along planes mostly repeat, and no more is counted: boards, bricks and stones are alike by nature. */
const USUAL_ON_PLANES = 0.15;
/** So much of what a take along planes repeats less counts for it. */
const CREDIT_ON_PLANES = 0.5;

/** What a take along planes counts as repeating. */
export const repeatsOnPlanes = (repeatShare: number): number =>
  USUAL_ON_PLANES - CREDIT_ON_PLANES * Math.max(0, USUAL_ON_PLANES - repeatShare);

/** Where a band's amplitude is less than this, in levels, there is less that a strategy could do worse than others. */
const LIVELY = 2.5;

/** What counts of a strategy's handicap amid surroundings of that liveliness (see `measureDetail`). */
export const handicapAmid = (liveliness: number, handicap: number): number =>
  handicap * Math.min(1, liveliness / LIVELY);

/** What a take along planes is preferred by: its lines run straight, which the measures don't see, */
const HANDICAP_ON_PLANES = -0.6;
/** wholly where so much of the place or more lies on planes, in proportion where less does; */
const MOSTLY_ON_PLANES = 0.6;
/** and being resampled costs it some of the detail they see, up to so many octaves; lacking more, it is out of focus. */
const RESAMPLED = 0.4;
const OUT_OF_FOCUS = 0.6;

/** The handicap of a take of which that share lies on planes, and whose detail is off by so much; below 0. */
export function handicapOnPlanes(share: number, detailError: number): number {
  const focus = Math.max(0, (OUT_OF_FOCUS - detailError) / (OUT_OF_FOCUS - RESAMPLED));
  return HANDICAP_ON_PLANES * Math.min(1, share / MOSTLY_ON_PLANES) * Math.min(1, focus);
}

/**
 * By what takes are ordered, the lowest first: how far detail and tones are from what the surroundings let expect, how
 * much seams show, the rim, how much is repeated, and what is cut off (docs/decisions/005). `pastEdge`: whether the place
 * lies past the picture's edge.
 */
export function rankOf(
  { detailError, toneError, seamError, rimError, repeatShare, cutLength }: FillMeasures,
  handicap: number,
  pastEdge: boolean,
): number {
  const weights = pastEdge ? WEIGHTS.pastEdge : WEIGHTS.between;
  const detail = weights.detail * Math.log(3 * detailError + 0.1);
  const tone = TONE_WEIGHT * Math.log(toneError + 0.1);
  const seams = weights.seams * Math.log(seamError + 0.02);
  const repeats = REPEAT_WEIGHT * Math.log(repeatShare + 0.05);
  return detail + tone + seams + RIM_WEIGHT * rimError + repeats + weights.cuts * cutLength + handicap;
}
