import { nanoid } from '@reduxjs/toolkit';
import { serialiseError } from '../../../core/errors.ts';
import type { Rect } from '../../../core/image/rect.ts';
import type { JoinOptions } from '../../../core/panorama/joinPhotos.ts';
import type { Ghost } from '../../../core/panorama/findGhosts.ts';
import type { Layout } from '../../../core/panorama/layOut.ts';
import type { Progress } from '../../../core/progress.ts';
import { openLink, type Client, type WorkerLink } from '../../../engine/workerLink.ts';
import type { Finished, NamedBlob, StitchApi } from '../../../workers/stitch.worker.ts';
import type { FingoDatabase } from '../../../storage/database.ts';
import { loadStitching, saveChoices, saveFrames, type StitchChoices } from '../../../storage/stitching.ts';
import type { AppStore } from '../../store/store.ts';
import { stitchActions, type StitchState } from './stitchSlice.ts';

/** The panorama as it is looked at. */
export interface PanoramaShown {
  layout: Layout;
  /** Over `layout.bounds`. */
  overview: ImageBitmap;
  /** Where one frame ends and another begins, over the overview; the rest is transparent. */
  seams: ImageBitmap;
  covered: Rect;
  ghosts: Ghost[];
}

/** Files, worker and pixels behind the Stitch screen. */
export interface StitchDesk {
  shown(): PanoramaShown | undefined;
  subscribe(listener: () => void): () => void;
  fileOf(id: string): Blob | undefined;
  add(frames: readonly NamedBlob[]): void;
  /** Takes all other frames out. Returns how to bring them back. */
  keepOnly(ids: readonly string[]): () => void;
  /** The panorama, or the part that is chosen of it, at full size. Undefined if it failed or was cancelled. */
  finish(): Promise<Finished | undefined>;
  /** The first two frames side by side. */
  join(options: JoinOptions): Promise<Finished | undefined>;
  /** Stops what is under way; what was found before stays. */
  cancel(): void;
  /** Looks at the frames anew. */
  again(): void;
  close(): void;
}

/** How a seam is drawn: light beside dark, so that it shows on any picture. */
const LIGHT = [255, 255, 255, 255] as const;
const DARK = [20, 20, 20, 255] as const;

/** Opens the desk with the frames that were on it when the page was left. */
export async function openStitchDesk(store: AppStore, db: FingoDatabase): Promise<StitchDesk> {
  const files = new Map<string, Blob>();
  const listeners = new Set<() => void>();
  let shown: PanoramaShown | undefined;
  let link: WorkerLink<StitchApi> | undefined;
  /** What is shown was made for these. */
  let framesShown = store.getState().stitch.frames;
  let saved: Pick<StitchState, 'settings' | 'crop'> = store.getState().stitch;
  let settingsShown: unknown;
  let planning = false;
  let stopped = false;
  const state = () => store.getState().stitch;

  const show = (next: PanoramaShown | undefined): void => {
    shown?.overview.close();
    shown?.seams.close();
    shown = next;
    listeners.forEach((listener) => listener());
  };
  const stop = (): void => {
    link?.close();
    link = undefined;
    planning = false;
    store.dispatch(stitchActions.workEnded());
  };
  const start = (): WorkerLink<StitchApi> =>
    (link = openLink<StitchApi>(
      () => new Worker(new URL('../../../workers/stitch.worker.ts', import.meta.url), { type: 'module' }),
    ));
  const report = (progress: Progress): void => {
    store.dispatch(stitchActions.workReported({ stage: progress.stage, share: progress.share }));
  };
  const named = (): NamedBlob[] => state().frames.map(({ id, name }) => ({ name, blob: files.get(id)! }));

  /** Asks a worker; what it says after it was replaced is not heard. */
  const ask = async <T>(
    by: WorkerLink<StitchApi>,
    question: (of: Client<StitchApi>) => Promise<T>,
  ): Promise<T | undefined> => {
    stopped = false;
    store.dispatch(stitchActions.troubleTold(''));
    store.dispatch(stitchActions.workReported({ stage: 'Starting', share: 0 }));
    try {
      const given = await question(by.api);
      return by === link ? given : undefined;
    } catch (error) {
      if (by === link && !stopped) store.dispatch(stitchActions.troubleTold(serialiseError(error).message));
      return undefined;
    } finally {
      if (by === link) store.dispatch(stitchActions.workEnded());
    }
  };

  const look = async (): Promise<void> => {
    stop();
    show(undefined);
    if (state().frames.length < 2) return;
    const by = start();
    const found = await ask(by, (of) => of.open(named(), report));
    if (!found) return;
    store.dispatch(stitchActions.framesUnderstood(found));
    await plan();
  };

  const plan = async (): Promise<void> => {
    const by = link;
    if (!by || planning) return;
    planning = true;
    // Settings may change meanwhile: the newest are planned next, those between are passed over.
    while (by === link && settingsShown !== state().settings) {
      const { settings } = state();
      settingsShown = settings;
      const planned = await ask(by, (of) => of.plan(settings, report));
      if (!planned || by !== link) break;
      const { overview, labels, layout, covered, ghosts } = planned;
      const image = new ImageData(overview.data, overview.width, overview.height);
      const next = {
        layout,
        covered,
        ghosts,
        overview: await createImageBitmap(image),
        seams: await createImageBitmap(seamPicture(labels, overview.width, overview.height)),
      };
      if (by === link) show(next);
    }
    if (by === link) planning = false;
  };

  /** Writes come one after the other; one that fails is told, and tried again with the next change. */
  let saving: Promise<void> = Promise.resolve();
  const keep = (write: () => Promise<void>): void => {
    saving = saving.then(write).catch((error: unknown) => {
      store.dispatch(stitchActions.troubleTold(serialiseError(error).message));
    });
  };

  const follow = (): void => {
    const { frames, settings, crop, gesture, report: about } = state();
    if (frames !== framesShown) {
      const kept = frames.map(({ id, name }) => ({ id, name, blob: files.get(id)! }));
      keep(() => saveFrames(db, kept));
    }
    if (gesture === '' && (settings !== saved.settings || crop !== saved.crop)) {
      saved = { settings, crop };
      keep(() => saveChoices(db, panoramaChoices(settings, crop)));
    }
    if (frames !== framesShown) {
      framesShown = frames;
      settingsShown = undefined;
      for (const id of files.keys()) if (!frames.some((frame) => frame.id === id)) files.delete(id);
      void look();
    } else if (about && settings !== settingsShown) void plan();
  };
  const before = await loadStitching(db);
  const unsubscribe = store.subscribe(follow);
  if (before) {
    before.frames.forEach(({ id, blob }) => files.set(id, blob));
    const frames = before.frames.map(({ id, name }) => ({ id, name }));
    const { settings, crop } = before.choices;
    store.dispatch(stitchActions.broughtBack({ frames, settings, crop }));
  }
  const add = (added: readonly NamedBlob[]): void => {
    const frames = added.map(({ name }) => ({ id: nanoid(), name }));
    frames.forEach(({ id }, k) => files.set(id, added[k]!.blob));
    store.dispatch(stitchActions.framesAdded(frames));
  };

  return {
    shown: () => shown,
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    fileOf: (id) => files.get(id),
    add,
    keepOnly(ids) {
      const gone = state().frames.filter(({ id }) => !ids.includes(id));
      const taken = gone.map(({ id, name }) => ({ name, blob: files.get(id)! }));
      store.dispatch(stitchActions.framesKept(ids));
      return () => add(taken);
    },
    async finish() {
      const part = state().crop ?? shown?.layout.bounds;
      return link && part && ask(link, (of) => of.render(part, report));
    },
    join: (options) => {
      const [first, second] = named();
      const by = link && !link.lost.aborted ? link : start();
      return ask(by, (of) => of.join([first!, second!], options, report));
    },
    cancel() {
      stopped = true;
      // Looking for features can't be stopped halfway: then the worker goes.
      if (shown) void link?.api.stop().catch(() => undefined);
      else stop();
    },
    again: () => void look(),
    close() {
      unsubscribe();
      stop();
      show(undefined);
      store.dispatch(stitchActions.left());
    },
  };
}

/** Choices as they are kept: the state's own are readonly all through, and are copied when they are checked. */
const panoramaChoices = (settings: StitchState['settings'], crop: StitchState['crop']): StitchChoices => ({
  settings: structuredClone(settings) as StitchChoices['settings'],
  ...(crop && { crop }),
});

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
