import { nanoid } from '@reduxjs/toolkit';
import { proxy, wrap, type Remote } from 'comlink';
import { serialiseError } from '../../../core/errors.ts';
import type { Rect } from '../../../core/image/rect.ts';
import type { JoinOptions } from '../../../core/panorama/joinPhotos.ts';
import type { Layout } from '../../../core/panorama/layOut.ts';
import type { Progress } from '../../../core/progress.ts';
import { unwrap, type Answer } from '../../../workers/answer.ts';
import type { Finished, NamedBlob, StitchApi } from '../../../workers/stitch.worker.ts';
import type { AppStore } from '../../store/store.ts';
import { stitchActions } from './stitchSlice.ts';

/** The panorama as it is looked at. */
export interface PanoramaShown {
  layout: Layout;
  /** Over `layout.bounds`. */
  overview: ImageBitmap;
  /** Where one frame ends and another begins, over the overview; the rest is transparent. */
  seams: ImageBitmap;
  covered: Rect;
}

/** Files, worker and pixels behind the Stitch screen. */
export interface StitchDesk {
  shown(): PanoramaShown | undefined;
  subscribe(listener: () => void): () => void;
  fileOf(id: string): Blob | undefined;
  add(files: readonly File[]): void;
  /** The panorama, or the part that is chosen of it, at full size. Undefined if it failed or was cancelled. */
  finish(): Promise<Finished | undefined>;
  /** The first two frames side by side. */
  join(options: JoinOptions): Promise<Finished | undefined>;
  cancel(): void;
  close(): void;
}

/** How a seam is drawn: light beside dark, so that it shows on any picture. */
const LIGHT = [255, 255, 255, 255] as const;
const DARK = [20, 20, 20, 255] as const;

export function openStitchDesk(store: AppStore): StitchDesk {
  const files = new Map<string, File>();
  const listeners = new Set<() => void>();
  let shown: PanoramaShown | undefined;
  let worker: Worker | undefined;
  let api: Remote<StitchApi> | undefined;
  /** What is shown was made for these. */
  let framesShown = store.getState().stitch.frames;
  let settingsShown: unknown;
  let planning = false;
  const state = () => store.getState().stitch;

  const show = (next: PanoramaShown | undefined): void => {
    shown?.overview.close();
    shown?.seams.close();
    shown = next;
    listeners.forEach((listener) => listener());
  };
  const stop = (): void => {
    worker?.terminate();
    worker = undefined;
    api = undefined;
    planning = false;
    store.dispatch(stitchActions.workEnded());
  };
  const start = (): Remote<StitchApi> => {
    worker = new Worker(new URL('../../../workers/stitch.worker.ts', import.meta.url), { type: 'module' });
    api = wrap<StitchApi>(worker);
    return api;
  };
  const report = proxy((progress: Progress) => {
    store.dispatch(stitchActions.workReported({ stage: progress.stage, share: progress.share }));
  });
  const named = (): NamedBlob[] => state().frames.map(({ id, name }) => ({ name, blob: files.get(id)! }));

  /** Asks a worker; what it says after it was replaced is not heard. */
  const ask = async <T>(
    by: Remote<StitchApi>,
    question: (of: Remote<StitchApi>) => Promise<Answer<T>>,
  ): Promise<T | undefined> => {
    store.dispatch(stitchActions.troubleTold(''));
    store.dispatch(stitchActions.workReported({ stage: 'Starting', share: 0 }));
    try {
      const given = await question(by);
      return by === api ? unwrap(given) : undefined;
    } catch (error) {
      if (by === api) store.dispatch(stitchActions.troubleTold(serialiseError(error).message));
      return undefined;
    } finally {
      if (by === api) store.dispatch(stitchActions.workEnded());
    }
  };

  const look = async (): Promise<void> => {
    stop();
    show(undefined);
    if (state().frames.length < 2) return;
    const by = start();
    const found = await ask(by, (of) => of.open(named(), report) as Promise<Answer<never>>);
    if (!found) return;
    store.dispatch(stitchActions.framesUnderstood(found));
    await plan();
  };

  const plan = async (): Promise<void> => {
    const by = api;
    if (!by || planning) return;
    planning = true;
    // Settings may change meanwhile: the newest are planned next, those between are passed over.
    while (by === api && settingsShown !== state().settings) {
      const { settings } = state();
      settingsShown = settings;
      const planned = await ask(by, (of) => of.plan(settings, report));
      if (!planned || by !== api) break;
      const { overview, labels, layout, covered } = planned;
      const image = new ImageData(overview.data, overview.width, overview.height);
      const next = {
        layout,
        covered,
        overview: await createImageBitmap(image),
        seams: await createImageBitmap(seamPicture(labels, overview.width, overview.height)),
      };
      if (by === api) show(next);
    }
    if (by === api) planning = false;
  };

  const follow = (): void => {
    const { frames, settings, report: about } = state();
    if (frames !== framesShown) {
      framesShown = frames;
      settingsShown = undefined;
      for (const id of files.keys()) if (!frames.some((frame) => frame.id === id)) files.delete(id);
      void look();
    } else if (about && settings !== settingsShown) void plan();
  };
  const unsubscribe = store.subscribe(follow);

  return {
    shown: () => shown,
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    fileOf: (id) => files.get(id),
    add(added) {
      const frames = added.map((file) => ({ id: nanoid(), name: file.name }));
      frames.forEach(({ id }, k) => files.set(id, added[k]!));
      store.dispatch(stitchActions.framesAdded(frames));
    },
    async finish() {
      const part = state().crop ?? shown?.layout.bounds;
      return api && part && ask(api, (of) => of.render(part, report));
    },
    join: (options) => {
      const [first, second] = named();
      const by = api ?? start();
      return ask(by, (of) => of.join([first!, second!], options, report));
    },
    cancel() {
      const hadShown = shown !== undefined;
      stop();
      // What was found stays; a new worker has to find it again when it is needed.
      if (hadShown) {
        settingsShown = undefined;
        void look();
      } else store.dispatch(stitchActions.troubleTold('Stopped. Add or take out frames to begin again.'));
    },
    close() {
      unsubscribe();
      stop();
      show(undefined);
      store.dispatch(stitchActions.left());
    },
  };
}

/** A line along each seam. */
function seamPicture(labels: Uint8Array, width: number, height: number): ImageData {
  const picture = new ImageData(width, height);
  const differ = (a: number, b: number): boolean => a !== b && a !== 255 && b !== 255;
  for (let y = 0; y + 1 < height; y++) {
    for (let x = 0; x + 1 < width; x++) {
      const i = y * width + x;
      for (const next of [i + 1, i + width]) {
        if (!differ(labels[i]!, labels[next]!)) continue;
        picture.data.set(LIGHT, 4 * i);
        picture.data.set(DARK, 4 * next);
      }
    }
  }
  return picture;
}
