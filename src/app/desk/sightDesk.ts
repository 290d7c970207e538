import type { SubjectParams } from '../../operations/rebuild/subjectRegions.ts';
import type { Draft } from '../../operations/draft.ts';
import { fingerprint, kindOfDraft, paramsOf, shapeKey } from '../../operations/draft.ts';
import { isMarked } from '../../operations/draftBase.ts';
import type { AnyChange } from '../../operations/kinds.ts';
import type { Mark } from '../../operations/marks/markSchema.ts';
import type { Reads } from '../../operations/rebuild/rebuildSchema.ts';
import type { DeskContext } from './deskContext.ts';
import { gazeOf, PAINTINGS, takeId } from './deskView.ts';
import { makeBitmap } from './patchBitmaps.ts';
import type { StandDesk } from './standDesk.ts';

/** The picture is turned and tilted at this size, or up to twice as large, while its frame is set. */
const OVERVIEW_PX = 1200;
const MAX_FIXATIONS = 5;

/** What is found by looking at the draft: outlines, the subject, what touches the sides, where the eye goes. */
export interface SightDesk {
  follow(draft: Draft): void;
  /** Shows small what the draft would give with its own settings changed so, the latest asked for. */
  glance(change: object): void;
  /** Another stand is shown: what was found in the one before has to be found anew. */
  forget(): void;
  close(): void;
}

export function createSightDesk(context: DeskContext, stands: StandDesk): SightDesk {
  const { picture, workshop, bench, draft: draftNow, view, show, tell } = context;

  let overviewAsked = false;
  const followOverview = async (): Promise<void> => {
    overviewAsked = true;
    try {
      const { source, base } = view();
      const overview = await picture.overview({ source, patches: base }, OVERVIEW_PX);
      if (view().source === source) show({ overview });
      const atEdge = await picture.atEdge({ source, patches: base });
      if (view().source === source) show({ atEdge });
    } catch (error) {
      tell(error);
    } finally {
      overviewAsked = false;
    }
  };

  let markShown: Draft['mark'] | undefined;
  const followMark = async (draft: Draft): Promise<void> => {
    markShown = draft.mark;
    if (!isMarked(draft)) {
      show({ outline: undefined, cutOut: undefined, subject: undefined });
      return;
    }
    try {
      const outline = await picture.outline(draft.mark, view().source.photo);
      if (draftNow().mark === draft.mark) show({ outline, outlined: draft.mark });
    } catch (error) {
      tell(error);
    }
  };

  const paintedShown = new Map<string, Mark>();
  const followPainting = async (name: string, mark: Mark | undefined): Promise<void> => {
    if (mark) paintedShown.set(name, mark);
    else paintedShown.delete(name);
    try {
      const outline = mark && (await picture.outline(mark, view().source.photo));
      if (paintedShown.get(name) === mark) show({ painted: { ...view().painted, [name]: outline } });
    } catch (error) {
      tell(error);
    }
  };
  /** All that is painted beside the mark or is a mark among the settings of the draft's kind. */
  const followPaintings = (draft: Draft): void => {
    const own = kindOfDraft(draft)?.draft.marks?.(draft.change!) ?? {};
    const wanted = new Map<string, Mark | undefined>([
      ...PAINTINGS.map((name) => [name, draft[name]] as const),
      ...Object.entries(own),
    ]);
    for (const name of new Set([...wanted.keys(), ...paintedShown.keys()])) {
      if (wanted.get(name) !== paintedShown.get(name)) void followPainting(name, wanted.get(name));
    }
  };

  let glancedAt: string | undefined;
  const looking = new AbortController();
  let glanceWanted: Draft | undefined;
  let isGlancing = false;
  const glance = async (draft: Draft): Promise<void> => {
    glanceWanted = draft;
    if (isGlancing) return;
    isGlancing = true;
    try {
      while (glanceWanted) {
        const now = glanceWanted;
        glanceWanted = undefined;
        const image = await workshop.glance(stands.shown(), now.change!.kind, paramsOf(now), looking.signal);
        await makeBitmap(image);
        if (draftNow().change?.kind === now.change!.kind) show({ glance: image });
      }
    } catch {
      // Out of reach, or cancelled: what can't be made is told when the hand rests.
      show({ glance: undefined });
    } finally {
      isGlancing = false;
    }
  };
  /** What can only be found by looking is seen small while its settings change. */
  const followGlance = (draft: Draft): void => {
    const kind = kindOfDraft(draft);
    const key = kind?.reshapesByLook ? fingerprint(draft) : undefined;
    if (key === glancedAt) return;
    glancedAt = key;
    const isChanged = kind !== undefined && !kind.draft.missing?.(draft, draft.change!, view().source.photo);
    if (key !== undefined && isChanged) void glance(draft);
    else if (view().glance) show({ glance: undefined });
  };

  /** What the cut-out depends on. */
  const subjectOf = (draft: Draft): SubjectParams => ({
    mark: draft.mark,
    ...(draft.belongs && { belongs: draft.belongs }),
    ...(draft.belongsNot && { belongsNot: draft.belongsNot }),
  });
  const readsOf = (draft: Draft): Reads | undefined => kindOfDraft(draft)?.draft.reads?.(draft.change!);
  let readShown: Reads | undefined;
  const followRead = async (reads: Reads | undefined): Promise<void> => {
    readShown = reads;
    if (reads === undefined || reads === 'present') {
      if (view().read) show({ read: undefined });
      return;
    }
    try {
      const read = await workshop.readFrom(stands.shown(), reads);
      if (readShown === reads) show({ read });
    } catch (error) {
      tell(error);
    }
  };
  const sameSubject = (a: Draft, b: Draft): boolean =>
    a.mark === b.mark && a.belongs === b.belongs && a.belongsNot === b.belongsNot && readsOf(a) === readsOf(b);
  let cutOutShown: Draft | undefined;
  let cutting = new AbortController();
  const followSubject = async (draft: Draft): Promise<void> => {
    cutOutShown = draft;
    cutting.abort();
    cutting = new AbortController();
    show({ cutOut: undefined, subject: undefined });
    try {
      const read = await workshop.readFrom(stands.shown(), readsOf(draft) ?? 'present');
      const cutOut = await workshop.cutOut(read, subjectOf(draft), cutting.signal);
      await makeBitmap(cutOut.image);
      if (!sameSubject(draftNow(), draft)) return;
      show({ cutOut });
      const subject = await picture.outline(cutOut.mark, view().source.photo);
      if (view().cutOut === cutOut) show({ subject });
    } catch (error) {
      tell(error);
    }
  };

  let gazeAsked = '';
  const followGaze = async (draft: Draft): Promise<void> => {
    const { source, base, reframed, takes } = view();
    const of = gazeOf(view(), draft);
    const wanted = bench().overlays.gaze ? of : '';
    if (wanted === gazeAsked) return;
    gazeAsked = wanted;
    if (!wanted) {
      show({ gaze: undefined });
      return;
    }
    const take = draft.chosen && takes.get(takeId(draft.chosen));
    const inSight =
      reframed && reframed.key === shapeKey(draft)
        ? { source: reframed.source, patches: take ?? [] }
        : { source, patches: base };
    try {
      const fixations = await picture.fixations(inSight, MAX_FIXATIONS);
      if (gazeAsked === of) show({ gaze: { fixations, of } });
    } catch (error) {
      tell(error);
    }
  };

  return {
    follow(draft) {
      const kind = kindOfDraft(draft);
      if (kind?.draft.looksAround && !view().overview && !overviewAsked) void followOverview();
      if (draft.mark !== markShown) void followMark(draft);
      followPaintings(draft);
      const wantsCutOut = kind?.draft.cutsOut === true && isMarked(draft);
      if (!wantsCutOut && view().cutOut) show({ cutOut: undefined, subject: undefined });
      if (!wantsCutOut) cutOutShown = undefined;
      else if (!cutOutShown || !sameSubject(draft, cutOutShown)) void followSubject(draft);
      followGlance(draft);
      const reads = readsOf(draft);
      if (reads !== readShown) void followRead(reads);
      void followGaze(draft);
    },
    glance(change) {
      const draft = draftNow();
      if (draft.change) void glance({ ...draft, change: { ...draft.change, ...change } as AnyChange });
    },
    forget() {
      markShown = undefined;
      readShown = undefined;
    },
    close() {
      cutting.abort();
      looking.abort();
    },
  };
}
