import { inLight } from '../../core/fill/fill.ts';
import { photoToFrame } from '../../core/geometry/frameGeometry.ts';
import { pasteImage, type RasterImage } from '../../core/image/rasterImage.ts';
import type { Rect, Size } from '../../core/image/rect.ts';
import { boundsOf, type Mask } from '../../core/mask/mask.ts';
import { within, type Task } from '../../core/progress.ts';
import type { Mark } from '../marks/markSchema.ts';
import { maskUnder, renderMark } from '../marks/renderMark.ts';
import { patchesUnder } from '../marks/patchesUnder.ts';
import { shiftMark } from '../marks/shiftMark.ts';
import type { ApplyInput, Operation, StepResult } from '../operation.ts';
import {
  movedPlane,
  REBUILD_STRATEGIES,
  rebuildMarked,
  rebuildRegion,
  reportOf,
  type RebuildParams,
} from '../rebuild/rebuildMarked.ts';
import { requireUsableSize } from '../requireUsableSize.ts';
import { describeFrame } from './describeFrame.ts';
import { reframeSchema, type ReframeParams } from './schema.ts';
import { vacancyMark } from './vacancy.ts';

/** What is rebuilt, in px of the frame, beyond a share of the way outward. */
function rebuildOf(params: ReframeParams, frame: Size & { photo: Size }, from = 0): RebuildParams {
  const { x, y } = params.frame.rect;
  const { donors, protect, planes, take, closeness } = params;
  return {
    mark: vacancyMark(params, frame.photo, { from }),
    ...(donors && { donors: shiftMark(donors, -x, -y) }),
    ...(protect && { protect: shiftMark(protect, -x, -y) }),
    ...(planes && { planes: planes.map((plane) => ({ ...movedPlane(plane, -x, -y), on: plane.on })) }),
    take,
    closeness,
  };
}

/**
 * Rebuilds what is vacant. In several passes each takes all that is left and keeps the part next to what is known, which
 * later ones go on from: none looks at what is vacant as if it were something.
 */
function* apply(input: ApplyInput<ReframeParams>): Task<StepResult> {
  const { params, photo: frame, before = frame, regions, inputKey, memo, kernels } = input;
  const region = regions[0]!;
  const picture = { rect: region.rect, image: { ...region.image, data: region.image.data.slice() } };
  const timings: Record<string, number> = {};
  const ranks: number[] = [];
  let report: StepResult['report'];
  const { passes } = params;
  const vacant = (mark: Mark): Mask => maskUnder(renderMark(mark, frame), region.rect);
  for (let pass = 0; pass < passes; pass++) {
    const rebuild = rebuildOf(params, { ...frame, photo: before }, pass / passes);
    if (boundsOf(vacant(rebuild.mark)).width === 0) break;
    const key = `${inputKey} pass ${pass} of ${JSON.stringify(params)}`;
    const task = rebuildMarked(rebuild, frame, picture, key, memo, kernels);
    const fill = yield* within(task, pass / passes, (pass + 1) / passes);
    const image = inLight(fill, params.light / 100);
    if (pass + 1 === passes) pasteImage(picture.image, fill.box, image);
    else pasteUnder(picture.image, fill.box, image, vacant(vacancyMark(params, before, { to: (pass + 1) / passes })));
    for (const [stage, ms] of Object.entries(fill.timings)) timings[stage] = (timings[stage] ?? 0) + ms;
    ranks.push(fill.rank);
    report = reportOf(fill, region.rect);
  }
  const mask = vacant(rebuildOf(params, { ...frame, photo: before }).mark);
  return {
    patches: patchesUnder(region.rect, picture.image, mask),
    rank: ranks.reduce((sum, rank) => sum + rank / ranks.length, 0),
    ...(report && { report }),
    timings,
  };
}

/** Puts the part of an image that is marked, at all, into its place. In place. */
function pasteUnder(out: RasterImage, box: Rect, image: RasterImage, mask: Mask): void {
  for (let y = 0; y < box.height; y++) {
    const row = (y + box.y) * out.width + box.x;
    for (let x = 0; x < box.width; x++) {
      if (!mask.data[row + x]) continue;
      const from = 4 * (y * box.width + x);
      out.data.set(image.data.subarray(from, from + 4), 4 * (row + x));
    }
  }
}

/** Another frame for the photo: cut, carried past its edges, levelled, squared up; what is vacant is rebuilt. */
export const reframeOperation: Operation<ReframeParams> = {
  type: 'reframe',
  version: 1,
  title: 'Frame',
  schema: reframeSchema,
  strategies: REBUILD_STRATEGIES,
  summarize: ({ frame }) => `Frame ${describeFrame(frame)}`,
  reshape({ frame }, photo) {
    requireUsableSize(frame.rect, photo);
    const { width, height } = frame.rect;
    return { warps: [{ kind: 'projective', toTarget: photoToFrame(frame, photo) }], size: { width, height } };
  },
  regions(params, frame, before = frame) {
    const rebuild = rebuildOf(params, { ...frame, photo: before });
    return rebuild.mark.shapes.length > 0 ? [rebuildRegion(rebuild, frame)] : [];
  },
  apply,
};
