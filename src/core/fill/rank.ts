import type { DetailMeasures } from './detailMeasure.ts';
import type { RimMeasures } from './rimMeasure.ts';
import type { SeamMeasures } from './seamMeasure.ts';
import type { ToneMeasures } from './toneMeasure.ts';

/** Signs, found without knowing the truth, of how believable a fill is. */
export type FillMeasures = DetailMeasures & SeamMeasures & ToneMeasures & RimMeasures;

/** A rim that shows is what strikes first. */
const RIM_WEIGHT = 1.5;

/**
 * By what takes are ordered, the lowest first: how far detail and tones are from what the surroundings let expect, how
 * much seams show, and the rim (docs/decisions/005).
 */
export function rankOf({ detailError, toneError, seamError, rimError }: FillMeasures, handicap: number): number {
  const detail = Math.log(3 * detailError + 0.1);
  const tone = 0.15 * Math.log(toneError + 0.1);
  const seams = 0.8 * Math.log(seamError + 0.02);
  return detail + tone + seams + RIM_WEIGHT * rimError + handicap;
}
