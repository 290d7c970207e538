import type { DetailMeasures } from './detailMeasure.ts';
import type { RimMeasures } from './rimMeasure.ts';
import type { SeamMeasures } from './seamMeasure.ts';
import type { ToneMeasures } from './toneMeasure.ts';

/** Signs, found without knowing the truth, of how believable a fill is. */
export type FillMeasures = DetailMeasures & SeamMeasures & ToneMeasures & RimMeasures;

/**
 * By what takes are ordered, the lowest first: how far detail and tones are from what the surroundings let expect, and
 * how much seams show. What is carried past the picture's edge is known from one side only: there tones and the rim tell
 * more, seams and the strategy less (docs/decisions/005).
 */
export function rankOf(measures: FillMeasures, handicap: number): number {
  const detail = Math.log(3 * measures.detailError + 0.1);
  const tone = Math.log(measures.toneError + 0.1);
  const seams = 0.4 * Math.log(measures.seamError + 0.02);
  const between = detail + 0.5 * tone + seams + handicap;
  const past = 0.5 * detail + tone + 0.5 * measures.rimError + 0.5 * handicap;
  return between + measures.pastEdge * (past - between);
}
