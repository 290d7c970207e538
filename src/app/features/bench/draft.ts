import { isDraft } from '@reduxjs/toolkit';
import { hashOf } from '../../../engine/resultKey.ts';
import { wholeOf, type Size } from '../../../core/image/rect.ts';
import { EMPTY_MARK } from '../../../operations/marks/markSchema.ts';
import { borrowSchema } from '../../../operations/borrow/schema.ts';
import { clearSchema, type ClearParams } from '../../../operations/clear/schema.ts';
import { lengthenSchema } from '../../../operations/lengthen/schema.ts';
import { operationOf, type StepParams } from '../../../operations/catalogue.ts';
import { textSchema } from '../../../operations/text/schema.ts';
import { stretchSchema } from '../../../operations/stretch/schema.ts';
import { reframeSchema } from '../../../operations/reframe/schema.ts';
import { placingSchema } from '../../../operations/rebuild/rebuildSchema.ts';
import type { Step } from '../../../operations/recipe.ts';
import type { Draft } from '../../../storage/projectSchema.ts';

export const EMPTY_DRAFT: Draft = {
  mark: EMPTY_MARK,
  waiting: [],
  placement: { dxPx: 0, dyPx: 0, scale: 1, turn: 0, mirror: 'none' },
  closeness: 50,
  rebuiltLight: 100,
  placedLight: 0,
  withShadow: true,
  shadowStrength: 100,
  takes: [],
  takesFor: '',
};

/** The jobs on the Bench. */
export type Job = 'subjects' | 'frame';

export const jobOf = (draft: Draft): Job => (draft.reframe || draft.stretch || draft.text ? 'frame' : 'subjects');

/** A draft that changes the frame of a picture of this size; as yet it is that picture's own. */
export const frameDraft = (photo: Size): Draft => ({
  ...EMPTY_DRAFT,
  what: 'reframe',
  reframe: reframeSchema.pick({ frame: true, sides: true, rimPx: true, passes: true }).parse({
    frame: { rect: wholeOf(photo) },
  }),
});

/** A draft that stretches a picture of this size; as yet it keeps its size. */
export const stretchDraft = ({ width, height }: Size): Draft => ({
  ...EMPTY_DRAFT,
  what: 'stretch',
  stretch: { width, height, part: { left: 0, top: 0, right: 1, bottom: 1 } },
});

/** A draft that lays text on a picture of this size; as yet there is none. */
export const textDraft = ({ width, height }: Size): Draft => ({
  ...EMPTY_DRAFT,
  what: 'text',
  text: {
    text: '',
    face: '',
    align: 'left',
    lineHeight: 1.2,
    outline: '',
    block: { width: 0, height: 0 },
    x: Math.round(width * TEXT_MARGIN),
    y: Math.round(height * TEXT_MARGIN),
    sizePx: Math.max(8, Math.round(Math.min(width, height) / 14)),
    colour: '#ffffff',
    opacity: 1,
  },
});

/** Text keeps so far from the picture's edges by itself, as a share of its sides. */
export const TEXT_MARGIN = 0.06;

export type What = NonNullable<Draft['what']>;

export const isPlacing = (what: Draft['what']): boolean => what === 'move' || what === 'duplicate';

/** Whether the marked thing is dragged for it: to its new place, further, or to where it is remade from. */
export const isDragged = (what: Draft['what']): boolean => isPlacing(what) || what === 'lengthen' || what === 'borrow';

/** What the user chooses among; the others begin with a button or a tool of their own. */
export const OFFERED: readonly What[] = ['clear', 'move', 'duplicate', 'lengthen', 'borrow'];

const DRAG_FIRST: Partial<Record<What, string>> = {
  move: 'Drag the marked subject to its new place.',
  duplicate: 'Drag the marked subject to its new place.',
  lengthen: 'Drag the marked end to where the thing should reach.',
  borrow: 'Drag from the mark to the place it should be remade from.',
};

export const isMarked = (draft: Draft): boolean => draft.mark.shapes.length > 0;

export const isMoved = ({ placement: p }: Draft): boolean =>
  p.dxPx !== 0 || p.dyPx !== 0 || p.scale !== 1 || p.turn !== 0 || p.mirror !== 'none';

/** What is still missing before takes can be made, as one sentence; undefined when nothing is. */
export function whatIsMissing(draft: Draft): string | undefined {
  if (jobOf(draft) === 'frame') return undefined;
  if (!isMarked(draft)) return 'Mark something first: draw loosely around it.';
  if (!draft.what) return 'Choose what happens to it.';
  if (!isMoved(draft)) return DRAG_FIRST[draft.what];
  return undefined;
}

/** The parameters of the step that the draft describes; the take is filled in by whoever makes it. */
export function paramsOf(draft: Draft): StepParams {
  const common = {
    closeness: draft.closeness,
    ...(draft.donors && { donors: draft.donors }),
    ...(draft.protect && { protect: draft.protect }),
    ...(draft.planes && { planes: draft.planes }),
    ...(draft.view && { view: draft.view }),
  };
  const how = { ...common, mark: draft.mark };
  const take = draft.chosen ?? { strategy: operationOf(draft.what!).strategies[0]!, seed: 1 };
  const { placement, withShadow, shadowStrength, horizonPx, inFront, belongs, belongsNot, reads } = draft;
  const shift = { dxPx: placement.dxPx, dyPx: placement.dyPx };
  switch (draft.what!) {
    case 'reframe':
      return reframeSchema.parse({ ...draft.reframe, ...common, light: draft.rebuiltLight, take });
    case 'stretch':
      return stretchSchema.parse({ ...draft.stretch, ...(draft.protect && { keep: draft.protect }), take });
    case 'text':
      return textSchema.parse({ ...draft.text, take });
    case 'lengthen':
      return lengthenSchema.parse({ ...how, by: shift, take });
    case 'borrow':
      return borrowSchema.parse({ ...how, light: draft.rebuiltLight, from: shift, take });
    case 'move':
    case 'duplicate':
      return placingSchema.parse({
        ...how,
        light: draft.placedLight,
        placement,
        withShadow,
        shadowStrength,
        ...(horizonPx !== undefined && { horizonPx }),
        ...(inFront && { inFront }),
        ...(belongs && { belongs }),
        ...(belongsNot && { belongsNot }),
        ...(reads && draft.what === 'duplicate' && { reads }),
        take,
      });
    default:
      return clearSchema.parse({ ...how, light: draft.rebuiltLight, take });
  }
}

/** Whether a draft gives the picture another size. */
export const isStretched = ({ stretch }: Draft, photo: Size): boolean =>
  stretch !== undefined && (stretch.width !== photo.width || stretch.height !== photo.height);

/** Remembers what is told of a draft: it never changes, but while a reducer is at work on it. */
function remembered<Value>(tell: (draft: Draft) => Value): (draft: Draft) => Value {
  const known = new WeakMap<Draft, { value: Value }>();
  return (draft) => {
    if (isDraft(draft)) return tell(draft);
    let entry = known.get(draft);
    if (!entry) known.set(draft, (entry = { value: tell(draft) }));
    return entry.value;
  };
}

/** Drafts with equal keys carry the picture over in the same way; undefined for those that leave its frame as it is. */
export const shapeKey = remembered(({ reframe, stretch, protect }): string | undefined =>
  reframe ? JSON.stringify(reframe.frame) : stretch && JSON.stringify([stretch, protect]),
);

/** Two drafts with equal fingerprints give the same takes of the same picture. */
export const fingerprint = remembered((draft): string => {
  if (!draft.what) return '';
  const { take: _, ...rest } = paramsOf(draft);
  return hashOf([draft.what, rest]);
});

/** Whether a draft's takes are what it gives on the picture of this name. */
export const areFresh = (draft: Draft, on: string): boolean =>
  draft.takesFor === fingerprint(draft) && (draft.takesOn ?? on) === on;

/** The draft that opens a step for change. */
export function draftOfStep(step: Step): Draft {
  const base: Draft = {
    ...EMPTY_DRAFT,
    editing: step.id,
    mark: step.params.mark ?? EMPTY_MARK,
    chosen: step.params.take,
  };
  const draft = withParams({ ...base, what: step.type as What }, step);
  const take = { spec: step.params.take, rank: 0, round: step.params.take.seed - 1, setAside: false };
  return { ...draft, takes: [take], takesFor: fingerprint(draft) };
}

function withParams(base: Draft, { type, params }: Step): Draft {
  if (type === 'reframe') {
    const { light, frame, sides, rimPx, passes, ...how } = reframeSchema.parse(params);
    return { ...base, ...howOf(how), rebuiltLight: light, reframe: { frame, sides, rimPx, passes } };
  }
  if (type === 'stretch') {
    const { keep, width, height, part } = stretchSchema.parse(params);
    return { ...base, stretch: { width, height, part }, ...(keep && { protect: keep }) };
  }
  if (type === 'text') {
    const { take: _, ...text } = textSchema.parse(params);
    return { ...base, text };
  }
  if (type === 'lengthen') {
    const { by, ...how } = lengthenSchema.parse(params);
    return { ...base, ...howOf(how), placement: { ...base.placement, ...by } };
  }
  if (type === 'borrow') {
    const { from, light, ...how } = borrowSchema.parse(params);
    return { ...base, ...howOf(how), rebuiltLight: light, placement: { ...base.placement, ...from } };
  }
  if (!isPlacing(base.what)) {
    const { light, ...how } = clearSchema.parse(params);
    return { ...base, ...howOf(how), rebuiltLight: light };
  }
  const { light, placement, withShadow, shadowStrength, horizonPx, inFront, belongs, belongsNot, reads, ...how } =
    placingSchema.parse(params);
  return {
    ...base,
    ...howOf(how),
    placedLight: light,
    placement,
    withShadow,
    shadowStrength,
    ...(horizonPx !== undefined && { horizonPx }),
    ...(inFront && { inFront }),
    ...(belongs && { belongs }),
    ...(belongsNot && { belongsNot }),
    ...(reads !== 'present' && { reads }),
  };
}

/** What all kinds of steps have in common of how they are rebuilt. */
const howOf = ({
  closeness,
  donors,
  protect,
  planes,
  view,
}: Pick<ClearParams, 'closeness' | 'donors' | 'protect' | 'planes' | 'view'>): Partial<Draft> => ({
  closeness,
  ...(donors && { donors }),
  ...(protect && { protect }),
  ...(planes && { planes }),
  ...(view && { view }),
});
