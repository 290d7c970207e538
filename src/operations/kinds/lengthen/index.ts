import { z } from 'zod';
import { FingoError } from '../../../core/errors.ts';
import {
  inflate,
  intersect,
  isEmpty,
  translate,
  unite,
  wholeOf,
  type Rect,
  type Size,
} from '../../../core/image/rect.ts';
import { howRebuilt } from '../../draftBase.ts';
import { mappedShift } from '../../following.ts';
import { followMarks } from '../../followMarks.ts';
import { defineKind } from '../../kind.ts';
import { middleOfMark } from '../../marks/followMark.ts';
import { markFrame } from '../../marks/renderMark.ts';
import { describeShift } from '../../rebuild/describePlacement.ts';
import { NO_SHIFT, shiftSchema } from '../../rebuild/rebuildSchema.ts';
import { lengthenSchema, type LengthenParams } from './schema.ts';
import { CHOICES } from './strategies.ts';

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

const ownSchema = z.object({ by: shiftSchema.default(NO_SHIFT) });

/** Pulls the marked end of a thing further; its structure runs on. */
export const lengthen = defineKind({
  type: 'lengthen',
  version: 1,
  title: 'Lengthen',
  schema: lengthenSchema,
  strategies: CHOICES,
  summarize: ({ by }) => `Lengthened by ${describeShift(by)}`,
  regions: (params, photo) => [region(params, photo)],
  follow: (params, by) => ({ ...followMarks(params, by), by: mappedShift(by, middleOfMark(params.mark), params.by) }),
  draft: {
    job: 'subjects',
    isOffered: true,
    schema: ownSchema,
    begin: () => ({ by: NO_SHIFT }),
    next: () => ({ by: NO_SHIFT }),
    toParams: (draft, { by }) => ({ ...howRebuilt(draft), mark: draft.mark, by }),
    toDraft: ({ by, ...params }) => ({ common: howRebuilt(params), own: { by } }),
    fromFlat: ({ placement }) => ({ by: placement }),
    missing: (_draft, { by }) =>
      by.dxPx === 0 && by.dyPx === 0 ? 'Drag the marked end to where the thing should reach.' : undefined,
    follow: (own, by, { mark }) => ({ by: mappedShift(by, middleOfMark(mark), own.by) }),
    remakesTakes: true,
  },
});
