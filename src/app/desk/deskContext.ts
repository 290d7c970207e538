import { serialiseError } from '../../core/errors.ts';
import type { PixelSource } from '../../engine/pictureSource.ts';
import type { Workshop } from '../../engine/workshop.ts';
import type { Draft } from '../../operations/draft.ts';
import type { Project } from '../../storage/projectSchema.ts';
import { benchActions } from '../state/benchSlice.ts';
import type { BenchState } from '../state/benchState.ts';
import type { AppStore } from '../store/store.ts';
import type { DeskView } from './deskView.ts';
import type { PictureDesk } from './pictureDesk.ts';

/** What all parts of a desk work with. */
export interface DeskContext {
  store: AppStore;
  picture: PictureDesk;
  workshop: Workshop;
  view(): DeskView;
  /** Changes what is shown, and tells those who look at it. */
  show(change: Partial<DeskView>): void;
  subscribe(listener: () => void): () => void;
  bench(): BenchState;
  project(): Project;
  draft(): Draft;
  /** Tells the user what went wrong; a cancel is nothing wrong. */
  tell(error: unknown): void;
  /** Remembers work that ends in a step, for who wants the finished picture. */
  await(work: Promise<unknown>): void;
  /** Waits for such work. */
  awaited(): Promise<void>;
}

export function createDeskContext(store: AppStore, picture: PictureDesk, workshop: Workshop): DeskContext {
  const listeners = new Set<() => void>();
  const underWay = new Set<Promise<unknown>>();
  let view = emptyView(picture.source);
  const bench = (): BenchState => store.getState().bench;
  return {
    store,
    picture,
    workshop,
    view: () => view,
    show(change) {
      view = { ...view, ...change };
      listeners.forEach((listener) => listener());
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    bench,
    project: () => bench().project!,
    draft: () => bench().project!.draft,
    await(work) {
      const over = work.catch(() => undefined).finally(() => underWay.delete(over));
      underWay.add(over);
    },
    async awaited() {
      while (underWay.size > 0) await Promise.all(underWay);
    },
    tell(error) {
      if (error instanceof DOMException && error.name === 'AbortError') return;
      store.dispatch(benchActions.troubleTold(serialiseError(error).message));
    },
  };
}

const emptyView = (source: PixelSource): DeskView => ({
  source,
  untouched: source,
  base: [],
  isTurning: false,
  takes: new Map(),
  reports: new Map(),
  samples: new Map(),
  painted: {},
});
