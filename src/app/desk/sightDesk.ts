import type { Size } from '../../core/image/rect.ts';
import type { SubjectParams } from '../../operations/rebuild/placeMarked.ts';
import type { Draft } from '../../storage/projectSchema.ts';
import { isMarked, isPlacing, isStretched, paramsOf, shapeKey } from '../features/bench/draft.ts';
import type { DeskContext } from './deskContext.ts';
import { gazeOf, PAINTINGS, takeId, type Painting } from './deskView.ts';
import { makeBitmap } from './patchBitmaps.ts';
import type { StandDesk } from './standDesk.ts';

/** The picture is turned and tilted at this size, or up to twice as large, while its frame is set. */
const OVERVIEW_PX = 1200;
const MOST_FIXATIONS = 5;

/** What is found by looking at the draft: outlines, the subject, what touches the sides, where the eye goes. */
export interface SightDesk {
  follow(draft: Draft): void;
  /** Shows small what stretching to a size would give, the latest one asked for. */
  glance(size: Size): void;
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

  const paintedShown: Partial<Record<Painting, Draft['donors']>> = {};
  const followPainting = async (draft: Draft, painting: Painting): Promise<void> => {
    const mark = draft[painting];
    paintedShown[painting] = mark;
    try {
      const outline = mark && (await picture.outline(mark, view().source.photo));
      if (draftNow()[painting] !== mark) return;
      const { [painting]: _, ...rest } = view().painted;
      show({ painted: outline ? { ...rest, [painting]: outline } : rest });
    } catch (error) {
      tell(error);
    }
  };

  let behindShown: Draft['mark'] | undefined;
  const followBehind = async (mark: Draft['mark'] | undefined): Promise<void> => {
    behindShown = mark;
    try {
      const behind = mark && (await picture.outline(mark, view().source.photo));
      if (behindShown === mark) show({ behind });
    } catch (error) {
      tell(error);
    }
  };

  let stretchShown: Draft['stretch'];
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
        const image = await workshop.glance(stands.shown(), 'stretch', paramsOf(now), looking.signal);
        await makeBitmap(image);
        if (draftNow().stretch) show({ glance: image });
      }
    } catch {
      // Out of reach, or cancelled: what can't be stretched is told when the hand rests.
      show({ glance: undefined });
    } finally {
      isGlancing = false;
    }
  };
  const followStretch = (draft: Draft): void => {
    stretchShown = draft.stretch;
    if (draft.stretch && isStretched(draft, view().source.photo)) void glance(draft);
    else if (view().glance) show({ glance: undefined });
  };

  /** What the cut-out depends on. */
  const subjectOf = (draft: Draft): SubjectParams => ({
    mark: draft.mark,
    ...(draft.belongs && { belongs: draft.belongs }),
    ...(draft.belongsNot && { belongsNot: draft.belongsNot }),
  });
  let readShown: Draft['reads'];
  const followRead = async (reads: Draft['reads']): Promise<void> => {
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
    a.mark === b.mark && a.belongs === b.belongs && a.belongsNot === b.belongsNot && a.reads === b.reads;
  let cutOutShown: Draft | undefined;
  let cutting = new AbortController();
  const followSubject = async (draft: Draft): Promise<void> => {
    cutOutShown = draft;
    cutting.abort();
    cutting = new AbortController();
    show({ cutOut: undefined, subject: undefined });
    try {
      const read = await workshop.readFrom(stands.shown(), draft.reads ?? 'present');
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
      const fixations = await picture.fixations(inSight, MOST_FIXATIONS);
      if (gazeAsked === of) show({ gaze: { fixations, of } });
    } catch (error) {
      tell(error);
    }
  };

  return {
    follow(draft) {
      if (draft.reframe && !view().overview && !overviewAsked) void followOverview();
      if (draft.mark !== markShown) void followMark(draft);
      for (const painting of PAINTINGS) {
        if (draft[painting] !== paintedShown[painting]) void followPainting(draft, painting);
      }
      if (draft.text?.behind !== behindShown) void followBehind(draft.text?.behind);
      const wantsCutOut = isPlacing(draft.what) && isMarked(draft);
      if (!wantsCutOut && view().cutOut) show({ cutOut: undefined, subject: undefined });
      if (!wantsCutOut) cutOutShown = undefined;
      else if (!cutOutShown || !sameSubject(draft, cutOutShown)) void followSubject(draft);
      if (draft.stretch !== stretchShown) followStretch(draft);
      const reads = draft.what === 'duplicate' ? draft.reads : undefined;
      if (reads !== readShown) void followRead(reads);
      void followGaze(draft);
    },
    glance({ width, height }) {
      const draft = draftNow();
      if (draft.stretch) void glance({ ...draft, stretch: { ...draft.stretch, width, height } });
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
