import { FingoError } from '../../../core/errors.ts';
import { lengthenRegion } from '../../../core/fill/lengthenRegion.ts';
import { cropImage } from '../../../core/image/rasterImage.ts';
import { translate } from '../../../core/image/rect.ts';
import { combineMasks } from '../../../core/mask/combine.ts';
import { type Mask, wholly } from '../../../core/mask/mask.ts';
import type { Task } from '../../../core/progress.ts';
import { findEnd } from '../../../core/segment/findEnd.ts';
import type { ApplyInput, Computation, StepResult } from '../../computation.ts';
import { maskUnder, renderMark } from '../../marks/renderMark.ts';
import { foundShadows, subjectOfMark } from '../../marks/subjectOfMark.ts';
import { putBack } from '../../rebuild/placeMarked.ts';
import { planesIn } from '../../rebuild/rebuildMarked.ts';
import type { LengthenParams } from './schema.ts';
import { CHOICES, LENGTHS, SAME_SIZE, WITH_GROUND } from './strategies.ts';

/** In levels of mismatch: what lies around it is seldom meant. */
const GROUND_HANDICAP = 0.5;

/** The thing in the mark, remembered: as the mark knows it, or found. */
function thingIn(
  { params, photo, regions, inputKey, memo, kernels }: ApplyInput<LengthenParams>,
  mark: Mask,
): Mask | undefined {
  const { rect, image } = regions[0]!;
  const own = subjectOfMark(params.mark);
  if (own && !own.loose) {
    const shapes = [...own.outline.shapes, ...foundShadows(params.mark)];
    return combineMasks(maskUnder(renderMark({ ...own.outline, shapes }, photo), rect), mark, 'onlyBoth');
  }
  const { dxPx: dx, dyPx: dy } = params.by;
  const key = JSON.stringify(['end', inputKey, rect, params.mark, params.by]);
  const remembered = memo.get(key) as { end: Mask | undefined } | undefined;
  if (remembered) return remembered.end;
  const end = findEnd(image, mark, { dx, dy }, kernels);
  memo.set(key, { end }, end?.data.byteLength ?? 0);
  return end;
}

function* apply(input: ApplyInput<LengthenParams>): Task<StepResult> {
  const { params, photo, regions, kernels } = input;
  const place = regions[0]!;
  const choice = CHOICES.indexOf(params.take.strategy);
  if (choice < 0) {
    throw new FingoError(
      'invalid-recipe',
      `"${params.take.strategy}" is not a way of lengthening; use ${CHOICES.join(', ')}.`,
    );
  }
  yield { stage: 'Looking for what repeats', share: 0.1 };
  const start = performance.now();
  const mark = maskUnder(renderMark(params.mark, photo), place.rect);
  const pull = { dx: params.by.dxPx, dy: params.by.dyPx };
  // Every further round goes through the next few lengths.
  const sameSize = params.take.strategy === SAME_SIZE;
  const withGround = params.take.strategy === WITH_GROUND;
  const first = choice < LENGTHS.length ? choice : 0;
  const nth = first + (choice < LENGTHS.length ? LENGTHS.length : 1) * (params.take.seed - 1);
  const planes = params.planes && planesIn(params.planes, place.rect);
  const made = lengthenRegion(
    {
      image: place.image,
      mark,
      pull,
      choice: nth,
      sameSize,
      thing: withGround ? undefined : thingIn(input, mark),
      ...(planes && { planes }),
    },
    kernels,
  );
  if (params.protect) {
    const kept = maskUnder(renderMark(params.protect, photo), translate(made.box, place.rect.x, place.rect.y));
    putBack(made.image, cropImage(place.image, made.box), wholly(kept));
  }
  return {
    patches: [{ rect: translate(made.box, place.rect.x, place.rect.y), image: made.image }],
    rank: made.rimStep + (withGround ? GROUND_HANDICAP : 0),
    timings: { lengthen: performance.now() - start },
  };
}

export const computation: Computation<LengthenParams> = { apply };
