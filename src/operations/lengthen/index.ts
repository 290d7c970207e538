import { FingoError } from '../../core/errors.ts';
import { lengthenRegion } from '../../core/fill/lengthenRegion.ts';
import { combineMasks } from '../../core/mask/combine.ts';
import { findEnd } from '../../core/segment/findEnd.ts';
import { type Mask, wholly } from '../../core/mask/mask.ts';
import { cropImage } from '../../core/image/rasterImage.ts';
import { inflate, intersect, isEmpty, translate, unite, wholeOf, type Rect, type Size } from '../../core/image/rect.ts';
import type { Task } from '../../core/progress.ts';
import { foundShadows, subjectOfMark } from '../marks/subjectOfMark.ts';
import { markFrame, maskUnder, renderMark } from '../marks/renderMark.ts';
import type { ApplyInput, Operation, StepResult } from '../operation.ts';
import { describeShift } from '../rebuild/describePlacement.ts';
import { planesIn } from '../rebuild/rebuildMarked.ts';
import { putBack } from '../rebuild/placeMarked.ts';
import { lengthenSchema, type LengthenParams } from './schema.ts';

/** A repeat may end some px off, what is compared lies around it, and edges farther out tell the perspective. */
const MARGIN_PX = 40;
const MARGIN_SHARE = 0.5;

function region({ mark, by }: LengthenParams, photo: Size): Rect {
  const frame = markFrame(mark, photo);
  if (isEmpty(frame)) {
    throw new FingoError('nothing-marked', 'Nothing is marked inside the picture; draw around the end of the thing.');
  }
  const there = translate(frame, Math.round(by.dxPx), Math.round(by.dyPx));
  const margin = Math.max(MARGIN_PX, Math.round(MARGIN_SHARE * Math.max(frame.width, frame.height)));
  return intersect(inflate(unite(frame, there), margin), wholeOf(photo));
}

/**
 * By length, the one whose joints match best first; in perspective where the thing shows any, but for one; and without
 * what lies around it in the mark, but for another.
 */
const LENGTHS = ['in step', 'another length', 'a third length', 'a fourth length'] as const;
const SAME_SIZE = 'one size throughout';
const WITH_GROUND = 'with what lies around it';
const CHOICES: readonly string[] = [...LENGTHS, SAME_SIZE, WITH_GROUND];
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

/** Pulls the marked end of a thing further; its structure runs on. */
export const lengthenOperation: Operation<LengthenParams> = {
  type: 'lengthen',
  version: 1,
  title: 'Lengthen',
  schema: lengthenSchema,
  strategies: CHOICES,
  summarize: ({ by }) => `Lengthened by ${describeShift(by)}`,
  regions: (params, photo) => [region(params, photo)],
  apply,
};
