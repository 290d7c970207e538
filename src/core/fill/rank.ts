import type { LineMeasures } from '../lines/stoppedLines.ts';
import type { DetailMeasures } from './detailMeasure.ts';
import type { RimMeasures } from './rimMeasure.ts';
import type { SeamMeasures } from './seamMeasure.ts';
import type { ToneMeasures } from './toneMeasure.ts';

/** Signs, found without knowing the truth, of how believable a fill is. */
export interface FillMeasures extends DetailMeasures, SeamMeasures, ToneMeasures, RimMeasures, LineMeasures {
  /** See `repeatShare`. */
  repeatShare: number;
  /**
   * How long the seams are at which one thing ends and another begins: pixels on both of their sides per side of a square
   * as large as the place.
   */
  cutLength: number;
}

/** What takes are ordered by. Weights come from sweeps over marks and margins: bench/notes, on planes, takes and ranking. */
export const RANK_OPTIONS = {
  /**
   * Weights of log(detail), log(seams) and of what is cut off. Past the picture's edge detail and seams tell little: what
   * is expected there is known from one side only. But what is cut off tells that something was set down that does not
   * belong there; amid known pixels it tells nothing.
   */
  between: { detail: 1, seams: 1.2, cuts: 0 },
  pastEdge: { detail: 0.3, seams: 0.4, cuts: 1.2 },
  /** Weight of log(tone). */
  tone: 0.15,
  /** Weight of the rim's error: a rim that shows is what strikes first. */
  rim: 1.5,
  /** Weight of the lines that stop. */
  lines: 5,
  /** Weight of log(repeats): what is set down again and again is no mistake in any place of its own. */
  repeats: 0.25,
  /**
   * The share of a take along planes that mostly repeats; no more is counted, since boards, bricks and stones are alike by
   * nature. So much of what it repeats less counts for it.
   */
  repeatsOnPlanes: { usual: 0.15, credit: 0.5 },
  /** Where an octave's amplitude is less than this, in levels, there is less that a strategy could do worse than others. */
  lively: 2.5,
  /**
   * What a take along planes is preferred by, as its lines run straight, which the measures don't see: wholly where at
   * least the share `mostly` of the place lies on planes, in proportion where less does. Being resampled costs it up to
   * `resampled` octaves of the detail that they see; with `outOfFocus` lacking it is preferred no more.
   */
  onPlanes: { handicap: -0.6, mostly: 0.6, resampled: 0.4, outOfFocus: 0.6 },
};

/** What a take along planes counts as repeating. */
export function repeatsOnPlanes(repeatShare: number, { repeatsOnPlanes: { usual, credit } } = RANK_OPTIONS): number {
  return usual - credit * Math.max(0, usual - repeatShare);
}

/** What counts of a strategy's handicap amid surroundings of that liveliness, in levels (see `measureDetail`). */
export const handicapAmid = (liveliness: number, handicap: number, { lively } = RANK_OPTIONS): number =>
  handicap * Math.min(1, liveliness / lively);

/** The handicap of a take of which that share lies on planes, and whose detail is off by so many octaves; below 0. */
export function handicapOnPlanes(share: number, detailError: number, { onPlanes } = RANK_OPTIONS): number {
  const { handicap, mostly, resampled, outOfFocus } = onPlanes;
  const focus = Math.max(0, (outOfFocus - detailError) / (outOfFocus - resampled));
  return handicap * Math.min(1, share / mostly) * Math.min(1, focus);
}

/**
 * By what takes are ordered, the lowest first: how far detail and tones are from what the surroundings let expect, how
 * much seams show, the rim, lines that stop, how much is repeated, and what is cut off (docs/decisions/005). `pastEdge`: whether the place
 * lies past the picture's edge.
 */
export function rankOf(
  { detailError, toneError, seamError, rimError, lineError, repeatShare, cutLength }: FillMeasures,
  handicap: number,
  pastEdge: boolean,
  options = RANK_OPTIONS,
): number {
  const weights = pastEdge ? options.pastEdge : options.between;
  const detail = weights.detail * Math.log(3 * detailError + 0.1);
  const tone = options.tone * Math.log(toneError + 0.1);
  const seams = weights.seams * Math.log(seamError + 0.02);
  const repeats = options.repeats * Math.log(repeatShare + 0.05);
  const lines = options.lines * lineError;
  return detail + tone + seams + options.rim * rimError + lines + repeats + weights.cuts * cutLength + handicap;
}
