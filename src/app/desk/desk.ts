import type { Fixation } from '../../core/measures/gaze.ts';
import type { UprightProposal } from '../../core/planes/findUpright.ts';
import { createMemoryStore } from '../../engine/memoryStore.ts';
import { createWorkerPool } from '../../engine/workerPool.ts';
import { createWorkshop, stepFailed, type Rendering } from '../../engine/workshop.ts';
import type { FingoDatabase } from '../../storage/database.ts';
import { createResultStore } from '../../storage/resultStore.ts';
import type { Project } from '../../storage/projectSchema.ts';
import type { Reshape } from '../../operations/computation.ts';
import { kindOf } from '../../operations/kinds.ts';
import { benchActions } from '../state/benchSlice.ts';
import { isMarked } from '../../operations/draftBase.ts';
import type { AppStore } from '../store/store.ts';
import { createDeskContext } from './deskContext.ts';
import type { DeskView } from './deskView.ts';
import { createMarkingDesk, type MarkingDesk } from './markingDesk.ts';
import { takeOpened } from './openedPicture.ts';
import { openPicture, type PictureDesk } from './pictureDesk.ts';
import { createSightDesk, type SightDesk } from './sightDesk.ts';
import { createRenderingDesk } from './renderingDesk.ts';
import { createStepPictures, type StepPictures } from './stepPictures.ts';
import { createTakesDesk } from './takesDesk.ts';

const MEMORY_BYTES = 512 * 2 ** 20;
const DATABASE_BYTES = 1024 * 2 ** 20;

/** Everything behind the Bench that is not plain state: the picture, the computing workers, results as pixels. */
export interface Desk extends MarkingDesk, StepPictures {
  picture: PictureDesk;
  view(): DeskView;
  subscribe(listener: () => void): () => void;
  /** Makes the first or the next round of takes for the draft. */
  makeTakes(): Promise<void>;
  cancel(): void;
  /** Makes the samples of the chosen take that are missing, as long as nothing else is to be done. */
  makeSamples(): Promise<void>;
  /** Whether the chosen take is there, and made on the picture as it stands. */
  canTakeOver(): boolean;
  /** The chosen take becomes a step. */
  takeOver(): void;
  /** Shows small what the draft would give with its own settings changed so. */
  glance(change: object): void;
  /** Uses the draft as it is, of which there is but one take. */
  useAsItIs(): Promise<void>;
  /** What sets the picture straight, as far as its lines tell it. */
  proposeUpright(): Promise<UprightProposal>;
  /** The place in the picture, before the open step, that the eye is drawn to first. */
  firstFixation(): Promise<Fixation | undefined>;
  /** The whole sphere before the open step, reduced until its longer side is under twice so many px. */
  sphereShown(longestPx: number): Promise<ImageBitmap>;
  /** Switches a step off or on; what comes after it follows. */
  switchStep(id: string): Promise<void>;
  removeStep(id: string): void;
  /** Computes the steps again, as after one that failed for want of memory. */
  replayAgain(): void;
  /** The finished picture. Waits for what is being computed again, and throws `step-failed` for a step that can't be made. */
  finished(): Promise<Rendering>;
  /** What is looked at: the picture before the open step, or the direct view of it that is worked in. */
  shown(): Rendering;
  /** Tells the user what went wrong; a cancel is nothing wrong. */
  tell(error: unknown): void;
  /** Remembers work that ends in a step, so that who wants the finished picture waits for it. */
  await(work: Promise<unknown>): void;
  close(): void;
}

export async function openDesk(store: AppStore, db: FingoDatabase, project: Project, blob: Blob): Promise<Desk> {
  const { key, fileName, sphere } = project.source;
  const picture = takeOpened(key) ?? (await openPicture(blob, fileName, sphere));
  const pool = createWorkerPool(Math.min(4, Math.max(2, navigator.hardwareConcurrency - 1)), () => {
    return new Worker(new URL('../../workers/compute.worker.ts', import.meta.url), { type: 'module' });
  });
  const results = createMemoryStore(MEMORY_BYTES, createResultStore(db, DATABASE_BYTES));
  const context = createDeskContext(store, picture, createWorkshop(picture.source, pool, results));
  const { bench, draft: draftNow, view } = context;

  let isWarm = false;

  /** Brings what is shown in line with the state. */
  const follow = (): void => {
    const opened = bench().project;
    // What is shown may not yet be what the draft's marks lie on.
    if (!opened || renderings.follow(opened) || view().isTurning) return;
    // Between marking and wanting takes there is time.
    if (!isWarm && isMarked(opened.draft)) {
      isWarm = true;
      pool.warmUp();
    }
    takes.follow(opened.draft);
    sight.follow(opened.draft);
  };
  const renderings = createRenderingDesk(context, () => {
    sight.forget();
    follow();
  });
  const sight: SightDesk = createSightDesk(context, renderings);
  const takes = createTakesDesk(context, renderings);
  const unsubscribe = store.subscribe(follow);
  follow();

  return {
    ...createMarkingDesk(context, renderings, takes),
    ...createStepPictures(context, renderings),
    picture,
    view,
    shown: renderings.shown,
    tell: context.tell,
    await: context.await,
    subscribe: context.subscribe,
    makeTakes: takes.makeTakes,
    cancel: takes.cancel,
    makeSamples: takes.makeSamples,
    canTakeOver: takes.canTakeOver,
    takeOver: takes.takeOver,
    async switchStep(id) {
      const { steps } = context.project();
      const index = steps.findIndex((step) => step.id === id);
      const step = steps[index];
      const before = renderings.all()[index];
      let now: Reshape | undefined;
      if (step && before && !step.enabled && kindOf(step.type).reshapesByLook) {
        // How it carries the picture over has to be found before anything can follow.
        try {
          const { signal } = new AbortController();
          now = (await context.workshop.reshaped(before, step.type, step.params, signal)).reshape;
        } catch (error) {
          context.tell(error);
        }
      }
      store.dispatch(benchActions.stepSwitched({ id, known: { then: renderings.reshapes(), now } }));
    },
    removeStep: (id) => void store.dispatch(benchActions.stepRemoved({ id, known: { then: renderings.reshapes() } })),
    replayAgain: renderings.again,
    glance: sight.glance,
    useAsItIs() {
      const used = takes.makeTakes().then(takes.takeOver);
      context.await(used);
      return used;
    },
    proposeUpright: () => picture.upright(renderings.of(draftNow())),
    async firstFixation() {
      const [first] = await picture.fixations(renderings.of(draftNow()), 1);
      return first;
    },
    sphereShown: (longestPx) => picture.overview(renderings.of(draftNow()), longestPx),
    async finished() {
      await context.awaited();
      await renderings.settled();
      const { project: opened, failed } = bench();
      if (failed) throw stepFailed(failed, opened!.steps);
      return renderings.all().at(-1)!;
    },
    close() {
      unsubscribe();
      takes.close();
      renderings.close();
      sight.close();
      pool.close();
      picture.close();
    },
  };
}
