import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { measureLines } from '../lines/stoppedLines.ts';
import { measureDetail, type Detail } from './detailMeasure.ts';
import { MIN_ON_PLANES, pixelsInAll } from './parts.ts';
import type { FillPlan } from './planFill.ts';
import { handicapAmid, handicapOnPlanes, rankOf, repeatsOnPlanes, type FillMeasures } from './rank.ts';
import type { Rebuilt } from './rebuildParts.ts';
import { measureRim } from './rimMeasure.ts';
import { seamErrorOf } from './seamMeasure.ts';
import type { FillStrategy } from './strategy.ts';
import type { Surroundings } from './surroundings.ts';
import { measureTones } from './toneMeasure.ts';
import { repeatShare } from './usedAreas.ts';

interface JudgeInput {
  plan: FillPlan;
  rebuilt: Rebuilt;
  /** RGBA of the box, where other threads see it. */
  shown: RasterImage;
  /** The mark's bytes, 0 = known. */
  hole: Hole;
  box: Rect;
  surroundings: Surroundings;
  strategy: FillStrategy;
}

/** What is told of a rebuilt place without knowing the truth. */
export interface Judgement {
  measures: FillMeasures;
  /** By what takes are ordered, the best having the lowest. */
  rank: number;
  detail: Detail;
  /** So much of it lies on planes that it counts as drawn along them. */
  alongPlanes: boolean;
}

/** Measures a rebuilt place against its surroundings, and gives it its rank among takes. */
export function judgeFill(
  { plan, rebuilt, shown, hole, box, surroundings, strategy }: JudgeInput,
  kernels: Kernels,
): Judgement {
  const { pastEdge, parts, outlines } = plan;
  const detail = measureDetail(surroundings.luma, box, shown, kernels);
  const { toneError } = measureTones(surroundings.tones, hole, rebuilt.picture.width, box, shown, kernels);
  const measures = {
    detailError: detail.detailError,
    ...seamErrorOf(rebuilt.seams),
    toneError,
    ...measureRim(rebuilt.picture, hole, box, shown, kernels),
    ...measureLines(surroundings.image, box, shown, outlines),
    repeatShare: repeatShare(rebuilt.uses),
    cutLength: rebuilt.onHardSeams / Math.sqrt(pixelsInAll(parts)),
  };
  const shareOnPlanes = pixelsInAll(parts.filter(({ plane }) => plane)) / pixelsInAll(parts);
  const alongPlanes = shareOnPlanes >= MIN_ON_PLANES;
  const usual = pastEdge ? strategy.handicapPastEdge : handicapAmid(detail.liveliness, strategy.handicap);
  const handicap = alongPlanes ? handicapOnPlanes(shareOnPlanes, detail.detailError) : usual;
  const counted = alongPlanes ? { ...measures, repeatShare: repeatsOnPlanes(measures.repeatShare) } : measures;
  return { measures, rank: rankOf(counted, handicap, pastEdge), detail, alongPlanes };
}
