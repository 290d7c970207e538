import { z } from 'zod';
import { FingoError } from '../../../core/errors.ts';
import { inflate, intersect, translate, unite, wholeOf, type Rect, type Size } from '../../../core/image/rect.ts';
import { howRebuilt } from '../../draftBase.ts';
import { mappedShift } from '../../following.ts';
import { followMarks } from '../../followMarks.ts';
import { defineKind } from '../../kind.ts';
import { middleOfMark } from '../../marks/followMark.ts';
import { markFrame } from '../../marks/renderMark.ts';
import { describeShift } from '../../rebuild/describePlacement.ts';
import { NO_SHIFT, shiftSchema } from '../../rebuild/rebuildSchema.ts';
import { borrowSchema, type BorrowParams } from './schema.ts';
import { BORROW_STRATEGIES } from './strategies.ts';

const MARGIN_PX = 96;

function region({ mark, from }: BorrowParams, photo: Size): Rect {
  const frame = markFrame(mark, photo);
  if (frame.width === 0 || frame.height === 0) {
    throw new FingoError('nothing-marked', 'Nothing is marked inside the picture; draw around what should change.');
  }
  const margin = Math.max(MARGIN_PX, Math.round(0.7 * Math.max(frame.width, frame.height)));
  const there = translate(frame, Math.round(from.dxPx), Math.round(from.dyPx));
  return intersect(inflate(unite(frame, there), margin), wholeOf(photo));
}

const ownSchema = z.object({ from: shiftSchema.default(NO_SHIFT) });

/** Remakes the marked area out of a place that is pointed at. */
export const borrow = defineKind({
  type: 'borrow',
  version: 1,
  title: 'Borrow',
  schema: borrowSchema,
  strategies: BORROW_STRATEGIES,
  summarize: ({ from }) => `Borrowed from ${describeShift(from)}`,
  regions: (params, photo) => [region(params, photo)],
  follow: (params, by) => ({
    ...followMarks(params, by),
    from: mappedShift(by, middleOfMark(params.mark), params.from),
  }),
  draft: {
    job: 'subjects',
    isOffered: true,
    schema: ownSchema,
    begin: () => ({ from: NO_SHIFT }),
    next: () => ({ from: NO_SHIFT }),
    toParams: (draft, { from }) => ({ ...howRebuilt(draft), mark: draft.mark, light: draft.light, from }),
    toDraft: ({ from, light, ...params }) => ({ common: { ...howRebuilt(params), light }, own: { from } }),
    fromFlat: ({ placement }) => ({ from: placement }),
    missing: (_draft, { from }) =>
      from.dxPx === 0 && from.dyPx === 0 ? 'Drag from the mark to the place it should be remade from.' : undefined,
    follow: (own, by, { mark }) => ({ from: mappedShift(by, middleOfMark(mark), own.from) }),
    remakesTakes: true,
  },
});
