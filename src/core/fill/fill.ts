import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import type { RunOnLine } from '../lines/runOnLine.ts';
import { runOnLines } from '../lines/runOnLines.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import type { Task } from '../progress.ts';
import type { Learned } from './learned.ts';
import { judgeFill } from './judgeFill.ts';
import { mixIntoPhoto, type Lit } from './mixIntoPhoto.ts';
import { pixelsInAll } from './parts.ts';
import { planFill } from './planFill.ts';
import { raiseDetail } from './raiseDetail.ts';
import type { FillMeasures } from './rank.ts';
import { rebuildParts } from './rebuildParts.ts';
import { requireMarked } from './requireMarked.ts';
import { stageClock } from './stageClock.ts';
import type { FillStrategy } from './strategy.ts';
import { roomForSurroundings } from './surroundings.ts';
import { usedAreas, type UsedAreas } from './usedAreas.ts';

export interface FillInput {
  /** The region of the photo, as planned by `planFillRegion` (`planRegion.ts`). */
  image: RasterImage;
  /** Region size. Above 0: rebuilt; the result is mixed with the photo by coverage. */
  mark: Mask;
  /** Region size, optional. Only pixels at 255 may be copied from. */
  donors?: Mask;
  /** Planes in region coordinates; where not given, and the strategy wants some, they are found. */
  planes?: readonly PlaneCorners[];
  /** The lines that run on, in region coordinates: they are drawn first, and no others. Where not given they are found. */
  lines?: readonly RunOnLine[];
  strategy: FillStrategy;
  seed: number;
  /** What is the same for every take of this mark in this region; what is missing is found out and written here. */
  learned?: Learned;
}

/** Pictures of the box, RGBA; outside the mark exactly the photo's pixels. */
export interface FillResult extends Lit {
  /** The part of the region that was rebuilt. */
  box: Rect;
  /** Of what was copied, before its detail is raised. */
  measures: FillMeasures;
  /** By what takes are ordered, the best having the lowest. */
  rank: number;
  /** The planes that were looked for or given, in region coordinates. */
  planes: readonly PlaneCorners[];
  /** The lines that were set, or else found to run on, in region coordinates. */
  lines: readonly RunOnLine[];
  /** Where new pixels were copied from, in region coordinates. */
  used: UsedAreas;
  /** By how many px the mark should grow to take its thing out whole; 0 where it does. */
  growthAdvised: number;
  /** Whether there was too little around the mark to rebuild it from with any variety. */
  poorSurroundings: boolean;
  /** Milliseconds by stage. */
  timings: Record<string, number>;
}

/**
 * Rebuilds the marked part of a region from the rest of it: coarse-to-fine patch completion with an approximate
 * nearest-neighbour field (C. Barnes et al.: PatchMatch, SIGGRAPH, 2009), full-resolution pixels copied through the
 * correspondence, bent so that lines meet those at the rim, seams closed in the gradient domain, and softened where things
 * end, missing detail raised. What lies on a plane is matched square on to it; places far apart, long ones and very large
 * ones are done in parts. Outside the mark no pixel changes.
 *
 * Throws `size-mismatch`, `nothing-marked` (mark empty) and `no-donors` (no whole patch of known, allowed pixels).
 * Deterministic for its input.
 */
export function* fillRegion(input: FillInput, kernels: Kernels): Task<FillResult> {
  const { image, mark, donors, strategy, seed, learned = {} } = input;
  requireSameSize(image, mark, 'The mark');
  if (donors) requireSameSize(image, donors, 'The donor mask');
  const box = boundsOf(mark);
  requireMarked(box);
  const clock = stageClock();
  kernels.reset();
  const shared = kernels.share(image.data);
  const hole = kernels.share(mark.data);

  yield { stage: 'Reading the surroundings', share: 0 };
  const plan = planFill({ ...input, learned }, hole, box, kernels);
  const { parts, planes } = plan;
  clock.lap('planes');

  const { width, height } = image;
  const known = { width, height, data: shared };
  const holeMask = { width, height, data: hole as Mask['data'] };
  const growthIsKnown = learned.growthAdvised !== undefined;
  const surroundings = roomForSurroundings(known, holeMask, box, pixelsInAll(parts), growthIsKnown, kernels);
  const rebuilding = { image, shared, hole, donors, box, parts, strategy, seed, surroundings };
  const rebuilt = yield* rebuildParts(rebuilding, kernels, clock);
  const growthAdvised = (learned.growthAdvised ??= surroundings.growth[0]!);

  const shown = { width: box.width, height: box.height, data: kernels.share(rebuilt.image.data) };
  const judgement = judgeFill({ plan, rebuilt, shown, hole, box, surroundings, strategy }, kernels);
  clock.lap('measure');
  // The lines of a plane are drawn sharp by themselves.
  if (!judgement.alongPlanes) {
    raiseDetail(judgement.detail, hole, width, box, shown.data, kernels);
    if (shown.data !== rebuilt.image.data) rebuilt.image.data.set(shown.data);
    clock.lap('detail');
  }
  mixIntoPhoto(image, mark, box, [rebuilt.image, rebuilt.inOwnLight]);
  clock.lap('finish');
  return {
    box,
    image: rebuilt.image,
    inOwnLight: rebuilt.inOwnLight,
    measures: judgement.measures,
    rank: judgement.rank,
    planes,
    lines: input.lines ?? runOnLines(plan.outlines),
    used: usedAreas(rebuilt.uses),
    growthAdvised,
    poorSurroundings: rebuilt.poorSurroundings,
    timings: clock.timings,
  };
}
