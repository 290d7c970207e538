import { FingoError } from '../../core/errors.ts';
import { fillRegion, type FillResult } from '../../core/fill/fill.ts';
import type { Learned } from '../../core/fill/learned.ts';
import { FILL_STRATEGIES, varied, type FillStrategy } from '../../core/fill/strategy.ts';
import type { Rect, Size } from '../../core/image/rect.ts';
import type { Kernels } from '../../core/kernels/kernels.ts';
import type { Mask } from '../../core/mask/mask.ts';
import { isConvexQuad } from '../../core/geometry/homography.ts';
import { translatedPreviews, type Task } from '../../core/progress.ts';
import { maskUnder, renderMark } from '../marks/renderMark.ts';
import type { Mark } from '../marks/markSchema.ts';
import type { Memo, Patch, RebuildReport } from '../computation.ts';
import { movedPlane } from './movedPlane.ts';
import { REBUILD_STRATEGIES } from './rebuildRegion.ts';
import type { PlaneParams, TakeSpec } from './rebuildSchema.ts';

export interface RebuildParams {
  mark: Mark;
  donors?: Mark | undefined;
  protect?: Mark | undefined;
  planes?: PlaneParams[] | undefined;
  take: TakeSpec;
  closeness: number;
}

/** About as much room as planes take. */
const LEARNED_BYTES = 50_000;

/**
 * Rebuilds what is marked out of its region, remembered by all that it depends on. Closeness sets how large the
 * pieces are that are carried over whole: 100 works 1.5 times as coarsely as 50, 0 as much more finely.
 */
export function* rebuildMarked(
  params: RebuildParams,
  photo: Size,
  region: Patch,
  inputKey: string,
  memo: Memo,
  kernels: Kernels,
): Task<FillResult> {
  const { mark, donors, protect, planes, take } = params;
  const key = rebuildKey(params, region.rect, inputKey);
  const known = memo.get(key) as FillResult | undefined;
  if (known) return known;
  const learnedKey = JSON.stringify(['learned', inputKey, region.rect, mark, protect]);
  const learned = (memo.get(learnedKey) as Learned | undefined) ?? {};
  const under = (what: Mark): Mask => maskUnder(renderMark(what, photo), region.rect);
  const result = yield* translatedPreviews(
    fillRegion(
      {
        image: region.image,
        mark: protect ? without(under(mark), under(protect)) : under(mark),
        ...(donors && { donors: under(donors) }),
        ...(planes && { planes: planesIn(planes, region.rect) }),
        strategy: strategyFor(take, params.closeness),
        seed: take.seed,
        learned,
      },
      kernels,
    ),
    region.rect,
  );
  memo.set(learnedKey, learned, LEARNED_BYTES);
  memo.set(key, result, 2 * result.image.data.byteLength);
  return result;
}

/** Tells rebuilds of `rect` apart by all that they depend on. */
export function rebuildKey(params: RebuildParams, rect: Rect, inputKey: string): string {
  const { mark, donors, protect, planes, take, closeness } = params;
  return JSON.stringify(['rebuild', inputKey, rect, mark, donors, protect, planes, take, closeness]);
}

/** Nothing of what is protected stays marked, however faintly it is. */
export function without(mask: Mask, kept: Mask): Mask {
  return { ...mask, data: mask.data.map((value, i) => (kept.data[i] ? 0 : value)) };
}

/** Those of the planes set by hand that are on and make sense, in coordinates of a region. */
export const planesIn = (planes: readonly PlaneParams[], { x, y }: Rect): PlaneParams[] =>
  planes.filter(isUsable).map((plane) => movedPlane(plane, -x, -y));

const isUsable = ({ corners, on }: PlaneParams): boolean => on && isConvexQuad(corners);

/** What a result tells of how it was rebuilt, in photo coordinates. */
export function reportOf(fill: FillResult, { x, y }: Rect): RebuildReport {
  return {
    planes: fill.planes.map((plane) => movedPlane(plane, x, y)),
    used: { ...fill.used, x, y },
    growthAdvisedPx: fill.growthAdvised,
    poorSurroundings: fill.poorSurroundings,
  };
}

function strategyFor({ strategy: name, seed }: TakeSpec, closeness: number): FillStrategy {
  const strategy = FILL_STRATEGIES.find((candidate) => candidate.name === name);
  if (!strategy) {
    throw new FingoError(
      'invalid-recipe',
      `"${name}" is not a way of rebuilding; use ${REBUILD_STRATEGIES.join(', ')}.`,
    );
  }
  const own = varied(strategy, seed);
  return { ...own, coarseness: own.coarseness * 2 ** ((closeness - 50) / 80) };
}
