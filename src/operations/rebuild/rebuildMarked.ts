import { FingoError } from '../../core/errors.ts';
import { fillRegion, type FillResult } from '../../core/fill/fill.ts';
import { sketchLines } from '../../core/fill/sketchLines.ts';
import type { Learned } from '../../core/fill/learned.ts';
import { FILL_STRATEGIES, varied, type FillStrategy } from '../../core/fill/strategy.ts';
import type { Rect, Size } from '../../core/image/rect.ts';
import type { Kernels } from '../../core/kernels/kernels.ts';
import type { RunOnLine } from '../../core/lines/runOnLine.ts';
import type { Mask } from '../../core/mask/mask.ts';
import { isConvexQuad } from '../../core/geometry/homography.ts';
import { translatedPreviews, type Task } from '../../core/progress.ts';
import { maskUnder, renderMark } from '../marks/renderMark.ts';
import type { Mark } from '../marks/markSchema.ts';
import type { Memo, Patch, RebuildReport } from '../computation.ts';
import { movedLine, shiftedLine } from './movedLine.ts';
import { movedPlane } from './movedPlane.ts';
import { SKETCH_OF_LINES } from './sketchOfLines.ts';
import { REBUILD_STRATEGIES } from './rebuildRegion.ts';
import { MOST_LINES, type PlaneParams, type RunOnParams, type TakeSpec } from './rebuildSchema.ts';

export interface RebuildParams {
  mark: Mark;
  donors?: Mark | undefined;
  protect?: Mark | undefined;
  planes?: PlaneParams[] | undefined;
  runOn?: RunOnParams[] | undefined;
  take: TakeSpec;
  closeness: number;
}

/** What was made of a mark in its region. */
export type Remade = Omit<FillResult, 'measures'>;

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
): Task<Remade> {
  const { mark, donors, protect, planes, runOn, take } = params;
  const key = rebuildKey(params, region.rect, inputKey);
  const known = memo.get(key) as Remade | undefined;
  if (known) return known;
  const learnedKey = JSON.stringify(['learned', inputKey, region.rect, mark, protect]);
  const learned = (memo.get(learnedKey) as Learned | undefined) ?? {};
  const under = (what: Mark): Mask => maskUnder(renderMark(what, photo), region.rect);
  const place = {
    image: region.image,
    mark: protect ? without(under(mark), under(protect)) : under(mark),
    ...(runOn && { lines: linesIn(runOn, region.rect) }),
    learned,
  };
  const fill = {
    ...place,
    ...(donors && { donors: under(donors) }),
    ...(planes && { planes: planesIn(planes, region.rect) }),
    seed: take.seed,
  };
  const result =
    take.strategy === SKETCH_OF_LINES.strategy
      ? sketch(place, kernels)
      : yield* translatedPreviews(
          fillRegion({ ...fill, strategy: strategyFor(take, params.closeness) }, kernels),
          region.rect,
        );
  memo.set(learnedKey, learned, LEARNED_BYTES + sizeOfLines(learned));
  memo.set(key, result, 2 * result.image.data.byteLength);
  return result;
}

/** A look at the lines alone; nothing of it is judged. */
function sketch(place: Parameters<typeof sketchLines>[0], kernels: Kernels): Remade {
  const { box, image, lines } = sketchLines(place, kernels);
  return {
    box,
    image,
    inOwnLight: image,
    rank: 0,
    planes: [],
    lines,
    used: { side: 1, width: 0, height: 0, cells: new Uint8Array(0) },
    growthAdvised: 0,
    poorSurroundings: false,
    timings: {},
  };
}

/** What is drawn of a region keeps a byte for each of its pixels, and what it is drawn from some more; outlines a field. */
const sizeOfLines = ({ outlines, lines, missed, repeats }: Learned): number =>
  3 * (outlines?.field.colour.byteLength ?? 0) +
  3 * [lines, missed, repeats].reduce((sum, each) => sum + (each?.drawn?.pixelsOf.length ?? 0), 0);

/** Tells rebuilds of `rect` apart by all that they depend on. */
export function rebuildKey(params: RebuildParams, rect: Rect, inputKey: string): string {
  const { mark, donors, protect, planes, runOn, take, closeness } = params;
  return JSON.stringify(['rebuild', inputKey, rect, mark, donors, protect, planes, runOn, take, closeness]);
}

/** Nothing of what is protected stays marked, however faintly it is. */
export function without(mask: Mask, kept: Mask): Mask {
  return { ...mask, data: mask.data.map((value, i) => (kept.data[i] ? 0 : value)) };
}

/** Those of the planes set by hand that are on and make sense, in coordinates of a region. */
export const planesIn = (planes: readonly PlaneParams[], { x, y }: Rect): PlaneParams[] =>
  planes.filter(isUsable).map((plane) => movedPlane(plane, -x, -y));

/** Those of the lines set by hand that are on, in coordinates of a region. */
export const linesIn = (lines: readonly RunOnParams[], { x, y }: Rect): RunOnLine[] =>
  lines
    .filter(({ on }) => on)
    .map((line) => shiftedLine(line, -x, -y))
    .map(({ points, widthsPx }) => ({ points, widths: widthsPx }));

const isUsable = ({ corners, on }: PlaneParams): boolean => on && isConvexQuad(corners);

/** What a result tells of how it was rebuilt, in photo coordinates. */
export function reportOf(fill: Remade, { x, y }: Rect): RebuildReport {
  return {
    planes: fill.planes.map((plane) => movedPlane(plane, x, y)),
    lines: fill.lines.slice(0, MOST_LINES).map((line) => movedLine(line, x, y)),
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
