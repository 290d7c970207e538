import { FingoError } from '../../../core/errors.ts';
import { borrowRegion, borrowable } from '../../../core/fill/borrowRegion.ts';
import { inLight } from '../../../core/fill/mixIntoPhoto.ts';
import { fitToRim } from '../../../core/fill/fitToRim.ts';
import type { Affine } from '../../../core/image/affine.ts';
import { cropImage, pasteImage } from '../../../core/image/rasterImage.ts';
import { intersect, translate, wholeOf, type Size } from '../../../core/image/rect.ts';
import type { Mask } from '../../../core/mask/mask.ts';
import { within, withoutPreviews, type Task } from '../../../core/progress.ts';
import type { ApplyInput, Computation, Patch, StepResult } from '../../computation.ts';
import type { Mark } from '../../marks/markSchema.ts';
import { markFromMask, maskUnder, renderMark } from '../../marks/renderMark.ts';
import { rebuildMarked, reportOf, without } from '../../rebuild/rebuildMarked.ts';
import { REBUILD_STRATEGIES } from '../../rebuild/rebuildRegion.ts';
import type { TakeSpec } from '../../rebuild/rebuildSchema.ts';
import type { BorrowParams } from './schema.ts';
import { AS_IT_LIES, BORROW_STRATEGIES, FITTED_IN, FOLLOWING } from './strategies.ts';

/** What fills those parts of the mark that cannot be borrowed. */
const REST: TakeSpec = { strategy: REBUILD_STRATEGIES[0]!, seed: 1 };

/** The mark at the place that is borrowed from, grown by a share of its size. */
function donorsAt({ mark, from }: BorrowParams, photo: Size, reach: number): Mark {
  const { rect, mask } = renderMark(mark, photo);
  const grown = Math.round(reach * Math.sqrt(rect.width * rect.height));
  const whole = { x: 0, y: 0, ...photo };
  const moved = translate(rect, Math.round(from.dxPx), Math.round(from.dyPx));
  const visible = intersect(moved, whole);
  const donors = markFromMask(maskUnder({ rect: moved, mask }, visible), visible);
  return { ...donors, growPx: Math.min(400, grown) };
}

function* apply(input: ApplyInput<BorrowParams>): Task<StepResult> {
  const { params, photo, regions, inputKey, memo, kernels } = input;
  const place = regions[0]!;
  const following = FOLLOWING[params.take.strategy];
  if (following) {
    const fill = yield* rebuildMarked(
      {
        ...params,
        donors: params.donors ?? donorsAt(params, photo, following.reach),
        take: { ...params.take, strategy: following.strategy },
      },
      photo,
      place,
      inputKey,
      memo,
      kernels,
    );
    return {
      patches: [{ rect: translate(fill.box, place.rect.x, place.rect.y), image: inLight(fill, params.light / 100) }],
      rank: fill.rank + RANKS.following,
      report: reportOf(fill, place.rect),
      timings: fill.timings,
    };
  }
  if (params.take.strategy !== AS_IT_LIES && params.take.strategy !== FITTED_IN) {
    throw new FingoError(
      'invalid-recipe',
      `"${params.take.strategy}" is not a way of borrowing; use ${BORROW_STRATEGIES.join(', ')}.`,
    );
  }
  const under = (what: Mark): Mask => maskUnder(renderMark(what, photo), place.rect);
  const mark = params.protect ? without(under(params.mark), under(params.protect)) : under(params.mark);
  const shift = { dx: Math.round(params.from.dxPx), dy: Math.round(params.from.dyPx) };
  let fitted: Affine | undefined;
  if (params.take.strategy === FITTED_IN) {
    yield { stage: 'Finding where it fits', share: 0 };
    fitted = fitToRim(place.image, mark, shift);
  }
  const from = fitted ?? { a: 1, b: 0, c: 0, d: 1, tx: shift.dx, ty: shift.dy };
  let image = place.image;
  const patches: Patch[] = [];
  const part = borrowable(mark, from);
  const isWhole = mark.data.every((value, i) => value === 0 || part[i] === 1);
  if (!isWhole) {
    const rest = yield* within(
      withoutPreviews(rebuildMarked({ ...params, take: REST }, photo, place, inputKey, memo, kernels)),
      0,
      0.8,
    );
    image = cropImage(image, wholeOf(image));
    pasteImage(image, rest.box, rest.image);
    patches.push({ rect: translate(rest.box, place.rect.x, place.rect.y), image: rest.image });
  }
  yield { stage: 'Closing seams', share: 0.85 };
  const start = performance.now();
  const borrowed = borrowRegion({ image, mark, from }, kernels);
  const made = inLight(borrowed, params.light / 100);
  patches.push({ rect: translate(borrowed.box, place.rect.x, place.rect.y), image: made });
  return {
    patches,
    // Where nothing fits better it is the same as what lies there, once more.
    rank: fitted ? RANKS.fitted : params.take.strategy === FITTED_IN ? RANKS.unfitted : RANKS.asItLies,
    timings: { borrow: performance.now() - start },
  };
}

/** Who points at a place wants that place, in line with what lies around the mark; what only follows it comes after. */
const RANKS = { fitted: 0, asItLies: 1, unfitted: 2, following: 10 };

export const computation: Computation<BorrowParams> = { apply };
