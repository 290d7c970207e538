import type { Combine } from '../../core/mask/combine.ts';
import type { Size } from '../../core/image/rect.ts';
import type { ReachTarget } from '../../core/segment/colourReach.ts';
import type { EdgeWindow } from '../../operations/marks/edgeWindow.ts';
import { EMPTY_MARK, type Mark, type MarkShape } from '../../operations/marks/markSchema.ts';
import type { Pole } from '../../operations/sphere/gapAround.ts';
import { benchActions } from '../state/benchSlice.ts';
import type { DeskContext } from './deskContext.ts';
import type { RenderingDesk } from './renderingDesk.ts';
import type { TakesDesk } from './takesDesk.ts';

/** A found subject is marked with so much slack: a share of its longer side and of the picture's, and at least some px. */
const SLACK_SHARE = 0.02;
const SLACK_SHARE_OF_PICTURE = 0.004;
const SMALLEST_SLACK_PX = 4;

/** Marks that are found in the picture, and how work on them begins. */
export interface MarkingDesk {
  /** Marks what has the colour at a photo point, or is near-white, near-black or without data. */
  markReach(target: ReachTarget, combine: Combine): Promise<void>;
  /** The ways along edges from a photo point, looked for at 1 / 2^level of the picture's size. */
  edgesFrom(at: { x: number; y: number }, level: number): Promise<EdgeWindow>;
  /** Marks the subject inside a loop. */
  markSubject(loop: MarkShape): Promise<void>;
  /** Adds the cast shadow of what is marked; false where none was found. */
  addShadow(): Promise<boolean>;
  /** Adds the reflection of what is marked; false where none was found. */
  addReflection(): Promise<boolean>;
  /** Goes into the direct view that suits what is marked on the flat sphere; false where there is none. */
  goIntoView(): Promise<boolean>;
  /**
   * Goes into the direct view of what is missing of the sphere around a pole, with that marked; false if nothing is,
   * undefined if it can't be shown in one.
   */
  gapView(pole: Pole): Promise<boolean | undefined>;
  /** Parts the mark into its areas, to be worked on one after the other. Returns how many there are. */
  partAreas(): Promise<number>;
}

export function createMarkingDesk(context: DeskContext, renderings: RenderingDesk, takes: TakesDesk): MarkingDesk {
  const { picture, workshop, store, bench, draft: draftNow, view, tell } = context;

  /** The subject inside a mark, as a mark of its own. */
  const foundSubject = async (mark: Mark, signal: AbortSignal): Promise<Mark> =>
    (await workshop.cutOut(renderings.shown(), { mark }, signal)).mark;

  /** Adds to the mark what its subject casts; false where nothing was found. */
  const addFound = async (
    what: 'shadow' | 'reflection',
    added: (found: Mark) => ReturnType<typeof benchActions.shadowAdded | typeof benchActions.reflectionAdded>,
  ): Promise<boolean> => {
    const { mark } = draftNow();
    let isFound = true;
    await takes.search(`Looking for the ${what}`, async (signal) => {
      // The slack of a mark may hold its beginning: what casts it is the subject alone.
      const subject = await foundSubject(mark, signal);
      const found = await picture[what](renderings.shown(), subject);
      signal.throwIfAborted();
      isFound = found.shapes.length > 0;
      if (isFound && draftNow().mark.shapes === mark.shapes) store.dispatch(added(found));
    });
    return isFound;
  };

  return {
    async markReach(target, combine) {
      const { reachTolerance: tolerance, reachConnected: connected } = bench();
      try {
        const { shapes } = await picture.reach(renderings.shown(), target, { tolerance, connected });
        for (const shape of shapes) store.dispatch(benchActions.shapeDrawn({ ...shape, combine }));
      } catch (error) {
        tell(error);
      }
    },
    edgesFrom: (at, level) => picture.edges(renderings.shown(), at, level),
    async markSubject(loop) {
      const { shapes: before } = draftNow().mark;
      await takes.search('Looking for the subject', async (signal) => {
        const found = await foundSubject({ ...EMPTY_MARK, shapes: [{ ...loop, combine: 'startOver' }] }, signal);
        const [shape] = found.shapes;
        if (shape?.kind !== 'raster' || draftNow().mark.shapes !== before) return;
        store.dispatch(benchActions.shapeDrawn({ ...shape, found: 'subject', combine: loop.combine }));
        // A tight mark cuts its thing's soft rim: some slack is needed to rebuild the place.
        const { photo } = renderings.shown().source;
        const share = (of: number, { width, height }: Size): number => Math.round(of * Math.max(width, height));
        const slack = Math.max(SMALLEST_SLACK_PX, share(SLACK_SHARE, shape), share(SLACK_SHARE_OF_PICTURE, photo));
        if (bench().paintTarget === 'mark' && draftNow().mark.growPx < slack) {
          store.dispatch(benchActions.markAdjusted({ growPx: slack }));
        }
      });
    },
    addShadow: () => addFound('shadow', benchActions.shadowAdded),
    addReflection: () => addFound('reflection', benchActions.reflectionAdded),
    async goIntoView() {
      try {
        const { mark: flat } = draftNow();
        store.dispatch(benchActions.viewEntered(await picture.viewOfMark(flat, view().source.photo)));
        return true;
      } catch (error) {
        tell(error);
        return false;
      }
    },
    async gapView(pole) {
      try {
        const found = await picture.gapView(renderings.of(draftNow()), pole);
        if (found) store.dispatch(benchActions.viewEntered(found));
        return found !== undefined;
      } catch (error) {
        tell(error);
        return undefined;
      }
    },
    async partAreas() {
      const { mark } = draftNow();
      const areas = await picture.areas(mark, view().source.photo);
      if (draftNow().mark === mark) store.dispatch(benchActions.areasParted(areas));
      return areas.length;
    },
  };
}
