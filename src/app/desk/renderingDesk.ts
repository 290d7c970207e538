import { sameView, type SphereView } from '../../core/sphere/sphereView.ts';
import type { Rendering } from '../../engine/workshop.ts';
import type { Reshape } from '../../operations/computation.ts';
import type { Step } from '../../operations/recipe.ts';
import type { Draft } from '../../operations/draft.ts';
import type { Project } from '../../storage/projectSchema.ts';
import { benchActions } from '../state/benchSlice.ts';
import type { DeskContext } from './deskContext.ts';

/** The picture after each step, and the one that is looked at. */
export interface RenderingDesk {
  /** Begins what brings the renderings, and the one shown, in line with a project; false where they are already. */
  follow(project: Project): boolean;
  /** Waits for what is being computed again. */
  settled(): Promise<void>;
  /** Whether steps are being computed again: what stands is not yet what they give. */
  isReplaying(): boolean;
  /** Computes the steps again, as after one that failed for want of memory. */
  again(): void;
  /** The renderings after each step; the first is the origin. They end before a step that failed. */
  all(): readonly Rendering[];
  /** How steps carried the picture over, by step. */
  reshapes(): ReadonlyMap<string, Reshape>;
  /** The rendering that a draft works on: before the open step, or after the last. */
  of(draft: Draft): Rendering;
  /** What is looked at and marked: that rendering, or what the draft's direct view shows of it. */
  shown(): Rendering;
  close(): void;
}

/** `onShown` is called whenever another rendering has come into view. */
export function createRenderingDesk(
  { workshop, store, project, draft, view, show, tell }: DeskContext,
  onShown: () => void,
): RenderingDesk {
  let renderings: Rendering[] = [workshop.origin];
  let stepsShown: Step[] | undefined;
  let replaying = new AbortController();
  let replayed: Promise<void> = Promise.resolve();
  let isReplaying = false;
  let shown = workshop.origin;
  /** The open step and the view that `shown` is for, and the view that it really is. */
  let editingShown: string | undefined;
  let viewAsked: SphereView | undefined;
  let viewShown: SphereView | undefined;
  let refreshes = 0;
  let isClosed = false;

  const of = ({ editing }: Draft): Rendering => {
    const index = editing ? project().steps.findIndex((step) => step.id === editing) : -1;
    const wanted = index >= 0 ? index : renderings.length - 1;
    return renderings[Math.min(wanted, renderings.length - 1)]!;
  };

  const replay = (steps: Step[]): void => {
    stepsShown = steps;
    replaying.abort();
    replaying = new AbortController();
    const { signal } = replaying;
    isReplaying = true;
    const mine = workshop
      .replay(steps, { signal, onStep: (index) => store.dispatch(benchActions.recomputingStep(index)) })
      .then(({ renderings: next, failed }) => {
        // One that was overtaken may still come to its end, after the one that overtook it.
        if (signal.aborted) return;
        isReplaying = false;
        renderings = next;
        store.dispatch(benchActions.stepFailed(failed));
        refresh();
      }, tell)
      .finally(() => {
        if (signal.aborted) return;
        isReplaying = false;
        store.dispatch(benchActions.recomputingStep(-1));
      });
    // Who waits for one that is overtaken waits for the one that overtook it.
    replayed = mine.then(() => (signal.aborted && !isClosed ? replayed : undefined));
  };

  /** A direct view of a rendering, its pixels made. */
  const seenIn = async (rendering: Rendering, through: SphereView): Promise<Rendering> => {
    const seen = await workshop.seen(rendering, through);
    await seen.source.crop({ x: 0, y: 0, width: 1, height: 1 });
    return seen;
  };

  const refresh = (): void => {
    const { editing, view: through } = draft();
    editingShown = editing;
    viewAsked = through;
    const mine = ++refreshes;
    const showRendering = (rendering: Rendering): void => {
      if (mine !== refreshes) return;
      shown = rendering;
      viewShown = through;
      const { source, untouched, patches: base } = rendering;
      show({ source, untouched, base, overview: undefined, atEdge: undefined, reframed: undefined, isTurning: false });
      onShown();
    };
    const rendering = of(draft());
    if (!through) {
      showRendering(rendering);
      return;
    }
    show({ isTurning: !sameView(through, viewShown) });
    seenIn(rendering, through).then(showRendering, (error: unknown) => {
      tell(error);
      if (mine === refreshes && view().isTurning) store.dispatch(benchActions.viewLeft());
    });
  };

  return {
    follow({ steps, draft: { editing, view: through } }) {
      if (steps !== stepsShown) {
        replay(steps);
        return true;
      }
      if (editing === editingShown && sameView(through, viewAsked)) return false;
      refresh();
      return true;
    },
    settled: () => replayed,
    isReplaying: () => isReplaying,
    again: () => replay(project().steps),
    all: () => renderings,
    reshapes: () =>
      new Map(
        (stepsShown ?? []).flatMap(({ id }, index) => {
          const reshape = renderings[index + 1]?.reshape;
          return reshape ? [[id, reshape] as const] : [];
        }),
      ),
    of,
    shown: () => shown,
    close() {
      isClosed = true;
      replaying.abort();
    },
  };
}
