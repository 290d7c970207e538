import { z } from 'zod';
import type { Size } from '../core/image/rect.ts';
import { hashOf } from './contentHash.ts';
import { draftBaseSchema, EMPTY_BASE, isMarked } from './draftBase.ts';
import { followMarks } from './followMarks.ts';
import type { Mapping } from './following.ts';
import type { Job, StepKind, StepParams } from './kind.ts';
import { kindOf, KINDS, type AnyChange } from './kinds.ts';
import { EMPTY_MARK } from './marks/markSchema.ts';
import { firstTake, type Step } from './recipe.ts';
import { takeSchema } from './rebuild/rebuildSchema.ts';

/** A proposal as it is remembered; its pixels are in the result store, or are computed again. */
const draftTake = z.object({
  spec: takeSchema,
  rank: z.number(),
  round: z.int().min(0),
  setAside: z.boolean().default(false),
});

/** The kind of step it is to become, with what its schema says is its own. */
const changeSchema = z.looseObject({ kind: z.string() }).transform((change, context): AnyChange => {
  const kind = KINDS.find(({ type }) => type === change.kind);
  const own = kind?.draft.schema.safeParse(change);
  if (kind && own?.success) return { ...own.data, kind: kind.type } as AnyChange;
  context.addIssue(own?.error?.issues[0]?.message ?? `There is no kind of step "${change.kind}".`);
  return z.NEVER;
});

const taggedDraftSchema = draftBaseSchema.extend({
  change: changeSchema.optional(),
  /** What was chosen before, one of a kind, the latest first: its settings come back. */
  before: z.array(changeSchema).max(20).default([]),
  takes: z.array(draftTake).max(60),
  /** Names the parameters that `takes` were made for; others make them out of date. */
  takesFor: z.string(),
  /** Names the picture they were made on; absent for those of a step that was opened, which fit whatever it stands on. */
  takesOn: z.string().optional(),
  chosen: takeSchema.optional(),
  /** The step that is open for change, if it is not a new one. */
  editing: z.string().optional(),
});

/** What is being worked on and not yet used; drafts of the first form are brought into this one. */
export const draftSchema = z.preprocess(fromFlatDraft, taggedDraftSchema);

export type Draft = z.infer<typeof taggedDraftSchema>;
export type DraftTake = z.infer<typeof draftTake>;

export const EMPTY_DRAFT: Draft = { ...EMPTY_BASE, before: [], takes: [], takesFor: '' };

/** The first form of drafts had the settings of all kinds side by side, and the kind's name as `what`. */
function fromFlatDraft(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || !('rebuiltLight' in value)) return value;
  const flat = value as Record<string, unknown>;
  const kind = KINDS.find(({ type }) => type === flat.what);
  const own = kind?.draft.fromFlat?.(flat);
  return {
    ...flat,
    light: flat.rebuiltLight,
    ...(own !== undefined && { change: { ...(own as object), kind: kind!.type } }),
  };
}

/** The kind that a draft is to become. */
export const kindOfDraft = ({ change }: Pick<Draft, 'change'>): StepKind | undefined => change && kindOf(change.kind);

/** What a draft holds for one kind alone; undefined while it is to become another. */
export function ownOf<Type extends string, Params extends StepParams, Own extends object>(
  { change }: Pick<Draft, 'change'>,
  { type }: StepKind<Type, Params, Own>,
): Own | undefined {
  return change?.kind === type ? (change as unknown as Own) : undefined;
}

export const jobOf = (draft: Draft): Job => kindOfDraft(draft)?.draft.job ?? 'subjects';

/** The kinds that are chosen among in a job. */
export const offeredIn = (job: Job): StepKind[] => KINDS.filter(({ draft }) => draft.job === job && draft.isOffered);

/** A kind as it begins on a picture of this size, after others were chosen. */
export const beginChange = (type: string, photo: Size, before: readonly AnyChange[] = []): AnyChange =>
  ({ ...kindOf(type).draft.begin(photo, before), kind: type }) as AnyChange;

/** A draft that is to become this kind, with nothing marked yet. */
export const draftOf = (type: string, photo: Size): Draft => ({ ...EMPTY_DRAFT, change: beginChange(type, photo) });

/** The draft with another kind chosen; mark and, where it means the same, place are kept. */
export function withKind(draft: Draft, type: string, photo: Size): Draft {
  const chosen = draft.change ? [draft.change, ...draft.before] : draft.before;
  const before = chosen.filter((change, k) => chosen.findIndex(({ kind }) => kind === change.kind) === k);
  return { ...draft, change: beginChange(type, photo, chosen), before: before.filter(({ kind }) => kind !== type) };
}

/** What stays for the next place: the same thing happening, with the same settings. */
export function nextDraft({ change, before, protect, view, closeness, light }: Draft): Draft {
  const again = (each: AnyChange): AnyChange => {
    const next = kindOf(each.kind).draft.next?.(each);
    return next ? ({ ...next, kind: each.kind } as AnyChange) : each;
  };
  const stays = change && kindOf(change.kind).draft.isOffered && kindOf(change.kind).draft.job === 'subjects';
  return {
    ...EMPTY_DRAFT,
    ...(view && { view }),
    ...(stays && { change: again(change) }),
    before: before.map(again),
    ...(protect && { protect }),
    closeness,
    light,
  };
}

/** What is still missing before takes can be made, as one sentence; undefined when nothing is. */
export function whatIsMissing(draft: Draft, photo: Size): string | undefined {
  const kind = kindOfDraft(draft);
  if (jobOf(draft) === 'subjects') {
    if (!isMarked(draft)) return 'Mark something first: draw loosely around it.';
    if (!kind) return 'Choose what happens to it.';
  }
  return kind?.draft.missing?.(draft, draft.change!, photo);
}

/** The parameters of the step that the draft describes; the take is filled in by whoever makes it. */
export function paramsOf(draft: Draft): StepParams {
  const kind = kindOfDraft(draft)!;
  const take = draft.chosen ?? firstTake(kind.type);
  return kind.schema.parse({ ...kind.draft.toParams(draft, draft.change!), take });
}

/** Remembers what is told of a draft, once it no longer changes. */
function remembered<Value>(tell: (draft: Draft) => Value): (draft: Draft) => Value {
  const known = new WeakMap<Draft, { value: Value }>();
  return (draft) => {
    if (!Object.isFrozen(draft)) return tell(draft);
    let entry = known.get(draft);
    if (!entry) known.set(draft, (entry = { value: tell(draft) }));
    return entry.value;
  };
}

/** Drafts with equal keys carry the picture over in the same way; undefined for those that leave its frame as it is. */
export const shapeKey = remembered((draft): string | undefined => {
  const kind = kindOfDraft(draft);
  const key = kind?.draft.shapeKey?.(draft, draft.change!);
  return key && `${kind!.type} ${key}`;
});

/** Two drafts with equal fingerprints give the same takes of the same picture. */
export const fingerprint = remembered((draft): string => {
  if (!draft.change) return '';
  const { take: _, ...rest } = paramsOf(draft);
  return hashOf([draft.change.kind, rest]);
});

/** Whether a draft's takes are what it gives on the picture of this name. */
export const areFresh = (draft: Draft, on: string): boolean =>
  draft.takesFor === fingerprint(draft) && (draft.takesOn ?? on) === on;

/** The draft that opens a step for change. */
export function draftOfStep({ id, type, params }: Step): Draft {
  const { common, own } = kindOf(type).draft.toDraft(params);
  const draft: Draft = {
    ...EMPTY_DRAFT,
    ...common,
    mark: params.mark ?? EMPTY_MARK,
    change: { ...own, kind: type } as AnyChange,
    editing: id,
    chosen: params.take,
  };
  const take = { spec: params.take, rank: 0, round: params.take.seed - 1, setAside: false };
  return { ...draft, takes: [take], takesFor: fingerprint(draft) };
}

/** A draft whose marks and places follow a change of an earlier step. Its takes are gone: they were of the old place. */
export function followDraft(draft: Draft, by: Mapping): Draft {
  const { change } = draft;
  const own = change && kindOf(change.kind).draft.follow?.(change, by, draft);
  const marks = followMarks({ ...draft, change: undefined, before: [] }, by);
  const { takesOn: _, chosen: __, ...followed } = { ...marks, takes: [], takesFor: '' };
  return {
    ...followed,
    before: draft.before,
    ...(change && { change: own ? ({ ...own, kind: change.kind } as AnyChange) : change }),
  };
}
