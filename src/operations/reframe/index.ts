import { inLight } from '../../core/fill/fill.ts';
import { photoToFrame } from '../../core/geometry/frameGeometry.ts';
import { pasteImage } from '../../core/image/rasterImage.ts';
import { translate, type Size } from '../../core/image/rect.ts';
import { within, type Task } from '../../core/progress.ts';
import { maskUnder, renderMark } from '../marks/renderMark.ts';
import { patchesUnder } from '../marks/patchesUnder.ts';
import { shiftMark } from '../marks/shiftMark.ts';
import type { ApplyInput, Operation, Patch, StepResult } from '../operation.ts';
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

/** What is rebuilt, in px of the frame, up to a share of the way outward. */
function rebuildOf(params: ReframeParams, frame: Size & { photo: Size }, share = 1): RebuildParams {
  const { x, y } = params.frame.rect;
  const { donors, protect, planes, take, closeness } = params;
  return {
    mark: vacancyMark(params, frame.photo, share),
    ...(donors && { donors: shiftMark(donors, -x, -y) }),
    ...(protect && { protect: shiftMark(protect, -x, -y) }),
    ...(planes && { planes: planes.map((plane) => ({ ...movedPlane(plane, -x, -y), on: plane.on })) }),
    take,
    closeness,
  };
}

function* apply(input: ApplyInput<ReframeParams>): Task<StepResult> {
  const { params, photo: frame, before = frame, regions, inputKey, memo, kernels } = input;
  const region = regions[0]!;
  const picture = { rect: region.rect, image: { ...region.image, data: region.image.data.slice() } };
  const timings: Record<string, number> = {};
  let rank = 0;
  let report: StepResult['report'];
  let changed: Patch = picture;
  for (let pass = 1; pass <= params.passes; pass++) {
    const rebuild = rebuildOf(params, { ...frame, photo: before }, pass / params.passes);
    const key = `${inputKey} pass ${pass} of ${JSON.stringify(params)}`;
    const task = rebuildMarked(rebuild, frame, picture, key, memo, kernels);
    const fill = yield* within(task, (pass - 1) / params.passes, pass / params.passes);
    changed = {
      rect: translate(fill.box, region.rect.x, region.rect.y),
      image: inLight(fill, params.light / 100),
    };
    pasteImage(picture.image, fill.box, changed.image);
    for (const [stage, ms] of Object.entries(fill.timings)) timings[stage] = (timings[stage] ?? 0) + ms;
    rank += fill.rank / params.passes;
    report = reportOf(fill, region.rect);
  }
  const { mark } = rebuildOf(params, { ...frame, photo: before });
  const mask = maskUnder(renderMark(mark, frame), changed.rect);
  return {
    patches: patchesUnder(changed.rect, changed.image, mask),
    rank,
    ...(report && { report }),
    timings,
  };
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
