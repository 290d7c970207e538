import type { PixelSource } from '../../engine/pictureSource.ts';
import type { SubjectParams } from '../../operations/rebuild/subjectRegions.ts';
import type { Draft } from '../../operations/draft.ts';
import { fingerprint, kindOfDraft, paramsOf, shapeKey, whatIsMissing } from '../../operations/draft.ts';
import { drawsLines, SKETCH_OF_LINES } from '../../operations/rebuild/sketchOfLines.ts';
import { isMarked } from '../../operations/draftBase.ts';
import type { AnyChange } from '../../operations/kinds.ts';
import type { Mark } from '../../operations/marks/markSchema.ts';
import type { Reads } from '../../operations/rebuild/rebuildSchema.ts';
import type { DeskContext } from './deskContext.ts';
import { gazeOf, PAINTINGS, takeId, type DeskView } from './deskView.ts';
import { createLatest, type Latest } from './latest.ts';
import { makeBitmap } from './patchBitmaps.ts';
import type { RenderingDesk } from './renderingDesk.ts';

/** The picture is turned and tilted at this size, or up to twice as large, while its frame is set. */
const OVERVIEW_PX = 1200;
const MAX_FIXATIONS = 5;

/** What is found by looking at the draft: outlines, the subject, what touches the sides, where the eye goes. */
export interface SightDesk {
  follow(draft: Draft): void;
  /** Shows small what the draft would give with its own settings changed so, the latest asked for. */
  glance(change: object): void;
  /** Another rendering is shown: what was found in the one before has to be found anew. */
  forget(): void;
  close(): void;
}

export function createSightDesk(context: DeskContext, renderings: RenderingDesk): SightDesk {
  const { picture, workshop, bench, draft: draftNow, view, show } = context;

  const overview = createLatest<PixelSource>(context, {
    async find(source, shown) {
      const { base } = view();
      shown({ overview: await picture.overview({ source, patches: base }, OVERVIEW_PX) });
      shown({ atEdge: await picture.atEdge({ source, patches: base }) });
    },
  });

  const outline = createLatest<Mark>(context, {
    find: async (mark, shown) => shown({ outline: await picture.outline(mark, view().source.photo), outlined: mark }),
    none: () => show({ outline: undefined, cutOut: undefined, subject: undefined }),
  });

  const paintings = new Map<string, Latest<Mark>>();
  const paintingOf = (name: string): Latest<Mark> => {
    const painted = (found: DeskView['outline']): Partial<DeskView> => ({
      painted: { ...view().painted, [name]: found },
    });
    const made = createLatest<Mark>(context, {
      find: async (mark, shown) => {
        const found = await picture.outline(mark, view().source.photo);
        shown(painted(found));
      },
      none: () => view().painted[name] && show(painted(undefined)),
    });
    paintings.set(name, made);
    return made;
  };
  /** All that is painted beside the mark or is a mark among the settings of the draft's kind. */
  const followPaintings = (draft: Draft): void => {
    const own = kindOfDraft(draft)?.draft.marks?.(draft.change!) ?? {};
    const wanted = new Map<string, Mark | undefined>([
      ...PAINTINGS.map((name) => [name, draft[name]] as const),
      ...Object.entries(own),
    ]);
    for (const name of new Set([...wanted.keys(), ...paintings.keys()])) {
      (paintings.get(name) ?? paintingOf(name)).follow(wanted.get(name));
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
        const image = await workshop.glance(renderings.shown(), now.change!.kind, paramsOf(now), looking.signal);
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
  const read = createLatest<Reads>(context, {
    find: async (reads, shown) => shown({ read: await workshop.readFrom(renderings.shown(), reads) }),
    none: () => view().read && show({ read: undefined }),
  });
  const subject = createLatest<Draft>(context, {
    isSame: (a, b) =>
      a.mark === b.mark && a.belongs === b.belongs && a.belongsNot === b.belongsNot && readsOf(a) === readsOf(b),
    async find(draft, shown, signal) {
      shown({ cutOut: undefined, subject: undefined });
      const from = await workshop.readFrom(renderings.shown(), readsOf(draft) ?? 'present');
      const cutOut = await workshop.cutOut(from, subjectOf(draft), signal);
      await makeBitmap(cutOut.image);
      shown({ cutOut });
      shown({ subject: await picture.outline(cutOut.mark, view().source.photo) });
    },
    none: () => view().cutOut && show({ cutOut: undefined, subject: undefined }),
  });

  /** Of the picture, or the take, that is named so. */
  const gaze = createLatest<string>(context, {
    async find(of, shown) {
      const { source, base, reframed, takes } = view();
      const draft = draftNow();
      const take = draft.chosen && takes.get(takeId(draft.chosen));
      const inSight =
        reframed && reframed.key === shapeKey(draft)
          ? { source: reframed.source, patches: take ?? [] }
          : { source, patches: base };
      shown({ gaze: { fixations: await picture.fixations(inSight, MAX_FIXATIONS), of } });
    },
    none: () => show({ gaze: undefined }),
  });

  /** Of the draft of this fingerprint. */
  const sketch = createLatest<string>(context, {
    async find(of, shown, signal) {
      const draft = draftNow();
      const params = { ...paramsOf(draft), take: SKETCH_OF_LINES };
      const { patches, report } = await workshop.apply(renderings.of(draft), draft.change!.kind, params, { signal });
      shown({ sketch: { patches, lines: report?.lines ?? [], of } });
    },
    none: () => view().sketch && show({ sketch: undefined }),
  });
  /** Lines are looked at as long as there is no take in which they can be seen. */
  const isSketchWanted = (draft: Draft): boolean => {
    const kind = kindOfDraft(draft);
    if (!bench().runOnShown || !kind || !drawsLines(kind)) return false;
    if (whatIsMissing(draft, view().source.photo)) return false;
    return draft.takes.length === 0 || draft.takesFor !== fingerprint(draft);
  };

  return {
    follow(draft) {
      const kind = kindOfDraft(draft);
      if (kind?.draft.looksAround && !view().overview) overview.follow(view().source);
      outline.follow(isMarked(draft) ? draft.mark : undefined);
      followPaintings(draft);
      subject.follow(kind?.draft.cutsOut === true && isMarked(draft) ? draft : undefined);
      followGlance(draft);
      const reads = readsOf(draft);
      read.follow(reads === 'present' ? undefined : reads);
      sketch.follow(isSketchWanted(draft) ? fingerprint(draft) : undefined);
      gaze.follow(bench().overlays.gaze ? gazeOf(view(), draft) : undefined);
    },
    glance(change) {
      const draft = draftNow();
      if (draft.change) void glance({ ...draft, change: { ...draft.change, ...change } as AnyChange });
    },
    forget() {
      for (const found of [overview, outline, read, sketch]) found.forget();
    },
    close() {
      looking.abort();
      for (const found of [overview, outline, read, subject, gaze, sketch, ...paintings.values()]) found.close();
    },
  };
}
