import { EMPTY_MARK } from '../../../operations/marks/markSchema.ts';
import { clearSchema } from '../../../operations/clear/schema.ts';
import { operationOf, type StepParams } from '../../../operations/catalogue.ts';
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
  takes: [],
  takesFor: '',
};

export type What = NonNullable<Draft['what']>;

export const isPlacing = (what: Draft['what']): boolean => what === 'move' || what === 'duplicate';

export const isMarked = (draft: Draft): boolean => draft.mark.shapes.length > 0;

export const isMoved = ({ placement: p }: Draft): boolean =>
  p.dxPx !== 0 || p.dyPx !== 0 || p.scale !== 1 || p.turn !== 0 || p.mirror !== 'none';

/** What is still missing before takes can be made, as one sentence; undefined when nothing is. */
export function whatIsMissing(draft: Draft): string | undefined {
  if (!isMarked(draft)) return 'Mark something first: draw loosely around it.';
  if (!draft.what) return 'Choose what happens to it.';
  if (isPlacing(draft.what) && !isMoved(draft)) return 'Drag the marked subject to its new place.';
  return undefined;
}

/** The parameters of the step that the draft describes; the take is filled in by whoever makes it. */
export function paramsOf(draft: Draft): StepParams {
  const how = {
    mark: draft.mark,
    closeness: draft.closeness,
    ...(draft.donors && { donors: draft.donors }),
    ...(draft.planes && { planes: draft.planes }),
  };
  const take = draft.chosen ?? { strategy: operationOf(draft.what!).strategies[0]!, seed: 1 };
  if (draft.what === 'clear') return clearSchema.parse({ ...how, light: draft.rebuiltLight, take });
  const { placement, withShadow } = draft;
  return placingSchema.parse({ ...how, light: draft.placedLight, placement, withShadow, take });
}

/** Two drafts with equal fingerprints give the same takes. */
export function fingerprint(draft: Draft): string {
  if (!draft.what) return '';
  const { take: _, ...rest } = paramsOf(draft);
  return JSON.stringify([draft.what, rest]);
}

/** The draft that opens a step for change. */
export function draftOfStep(step: Step): Draft {
  const base: Draft = { ...EMPTY_DRAFT, editing: step.id, mark: step.params.mark, chosen: step.params.take };
  const draft: Draft =
    step.type === 'clear'
      ? withClear(base, clearSchema.parse(step.params))
      : withPlacing({ ...base, what: step.type as What }, placingSchema.parse(step.params));
  const take = { spec: step.params.take, rank: 0, round: step.params.take.seed - 1, setAside: false };
  return { ...draft, takes: [take], takesFor: fingerprint(draft) };
}

const withClear = (base: Draft, params: ReturnType<typeof clearSchema.parse>): Draft => ({
  ...base,
  ...howOf(params),
  what: 'clear',
  rebuiltLight: params.light,
});

const withPlacing = (base: Draft, params: ReturnType<typeof placingSchema.parse>): Draft => ({
  ...base,
  ...howOf(params),
  placedLight: params.light,
  placement: params.placement,
  withShadow: params.withShadow,
});

/** What all kinds of steps have in common of how they are rebuilt. */
const howOf = ({ closeness, donors, planes }: ReturnType<typeof clearSchema.parse>): Partial<Draft> => ({
  closeness,
  ...(donors && { donors }),
  ...(planes && { planes }),
});
