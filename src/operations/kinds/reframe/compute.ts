import { inLight } from '../../../core/fill/mixIntoPhoto.ts';
import { pasteImage, type RasterImage } from '../../../core/image/rasterImage.ts';
import type { Rect } from '../../../core/image/rect.ts';
import { boundsOf, type Mask } from '../../../core/mask/mask.ts';
import { within, type Task } from '../../../core/progress.ts';
import type { ApplyInput, Computation, StepResult } from '../../computation.ts';
import type { Mark } from '../../marks/markSchema.ts';
import { patchesUnder } from '../../marks/patchesUnder.ts';
import { maskUnder, renderMark } from '../../marks/renderMark.ts';
import { shiftedLine } from '../../rebuild/movedLine.ts';
import { rebuildMarked, reportOf } from '../../rebuild/rebuildMarked.ts';
import { rebuildOf } from './rebuildOf.ts';
import type { ReframeParams } from './schema.ts';
import { vacancyMark } from './vacancy.ts';

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
    const { x, y } = params.frame.rect;
    const told = reportOf(fill, region.rect);
    // Lines are set in px of the upright photo.
    report = { ...told, lines: told.lines.map((line) => shiftedLine(line, x, y)) };
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

export const computation: Computation<ReframeParams> = { apply };
