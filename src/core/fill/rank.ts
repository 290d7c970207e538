import type { DetailMeasures } from './detailMeasure.ts';
import type { SeamMeasures } from './seamMeasure.ts';
import type { ToneMeasures } from './toneMeasure.ts';

/** Signs, found without knowing the truth, of how believable a fill is. */
export type FillMeasures = DetailMeasures & SeamMeasures & ToneMeasures;

/**
 * By what takes are ordered, the lowest first: how far detail and tones are from what the surroundings let expect, and
 * how much seams show (docs/decisions/005).
 */
export function rankOf({ detailError, seamError, toneError }: FillMeasures, handicap: number): number {
  const detail = Math.log(3 * detailError + 0.1);
  const tone = 0.5 * Math.log(toneError + 0.1);
  const seams = 0.4 * Math.log(seamError + 0.02);
  return detail + tone + seams + handicap;
}
