import { serialiseError } from '../../core/errors.ts';
import type { Size } from '../../core/image/rect.ts';
import type { Quad } from '../../core/geometry/insetQuad.ts';
import type { ThingAtEdge } from '../../core/measures/thingsAtEdge.ts';
import type { Fixation } from '../../core/measures/gaze.ts';
import type { Combine } from '../../core/mask/combine.ts';
import type { Preview, Progress } from '../../core/progress.ts';
import type { UprightProposal } from '../../core/planes/findUpright.ts';
import type { ReachTarget } from '../../core/segment/colourReach.ts';
import { composePatches } from '../../operations/composePatches.ts';
import { createMemoryStore } from '../../engine/memoryStore.ts';
import { createWorkerPool } from '../../engine/workerPool.ts';
import type { PixelSource } from '../../engine/pictureSource.ts';
import { createWorkshop, type Stand } from '../../engine/workshop.ts';
import { EMPTY_MARK, type Mark, type MarkShape } from '../../operations/marks/markSchema.ts';
import type { MarkOutline } from '../../operations/marks/outlineMark.ts';
import { markFromMask } from '../../operations/marks/renderMark.ts';
import { photoInFrame, throughFrame, vacantSides } from '../../operations/reframe/vacancy.ts';
import { reframeSchema } from '../../operations/reframe/schema.ts';
import { sameView } from '../../core/sphere/sphereView.ts';
import type { Pole } from '../../operations/sphere/gapAround.ts';
import type { Patch, RebuildReport } from '../../operations/operation.ts';
import type { Step } from '../../operations/recipe.ts';
import type { SubjectParams } from '../../operations/rebuild/placeMarked.ts';
import type { TakeSpec } from '../../operations/rebuild/rebuildSchema.ts';
import { distinctTakes, type RankedTake } from '../../operations/takes.ts';
import type { FingoDatabase } from '../../storage/database.ts';
import { createResultStore } from '../../storage/resultStore.ts';
import type { Draft, DraftTake, Project } from '../../storage/projectSchema.ts';
import { benchActions } from '../features/bench/benchSlice.ts';
import {
  fingerprint,
  isMarked,
  isStretched,
  isPlacing,
  paramsOf,
  shapeKey,
  whatIsMissing,
} from '../features/bench/draft.ts';
import type { AppStore } from '../store/store.ts';
import { makeBitmap } from './patchBitmaps.ts';
import { openPicture, type PictureDesk } from './pictureDesk.ts';
import { strokeTake } from './strokeTake.ts';

const MEMORY_BYTES = 512 * 2 ** 20;
const DATABASE_BYTES = 1024 * 2 ** 20;
/** Changes of settings that come faster than this are computed once. */
const SETTLE_MS = 350;
/** A found subject is marked with so much slack: a share of its longer side, and at least some px. */
const SLACK_SHARE = 0.02;
const SMALLEST_SLACK_PX = 4;
/** Where the horizon is supposed, as a share of the height, when no line of the picture tells it. */
const GUESSED_HORIZON = 0.35;
/** The picture is turned and tilted at this size, or up to twice as large, while its frame is set. */
const OVERVIEW_PX = 1200;
const MOST_FIXATIONS = 5;
/** Progress is told at most this often. */
const REPORT_MS = 120;

/** The pixels that the Bench shows; replaced as a whole whenever anything in it changes. */
export interface DeskView {
  /** The picture that is worked on, before the step that is open: its frame, and the original in that frame. */
  source: PixelSource;
  untouched: PixelSource;
  /** Everything changed of it so far. */
  base: Patch[];
  /** The picture in the draft's frame, once a take has been made there. */
  reframed?: { source: PixelSource; key: string } | undefined;
  /** Where the eye goes in what is in sight, in px of it, as long as it is asked for. */
  gaze?: Gaze | undefined;
  /** What touches the picture's sides, once its frame is being set. */
  atEdge?: ThingAtEdge[] | undefined;
  /** Whether another direct view is being made; until it is there, what is shown is something else. */
  isTurning: boolean;
  /** The picture small, for looking at while it is turned. */
  overview?: ImageBitmap | undefined;
  /** What the draft's takes give, by take. */
  takes: ReadonlyMap<string, Patch[]>;
  /** What those takes tell of how they were rebuilt. */
  reports: ReadonlyMap<string, RebuildReport>;
  /** The chosen take at other closeness and light, by `sampleId`. */
  samples: ReadonlyMap<string, Patch[]>;
  /** What was painted beside the mark: donors, protection, what stays in front, strokes on the subject. */
  painted: Partial<Record<Painting, MarkOutline>>;
  outline?: MarkOutline;
  /** The subject inside the mark, its matte as alpha. */
  cutOut?: Patch;
  /** A coarse look at the first take while it is being made. */
  preview?: Preview;
}

/** Fixations and what they were found in: the picture before, or the draft's new frame with a take. */
export interface Gaze {
  fixations: Fixation[];
  of: string;
}

/** What is painted beside the mark. */
export const PAINTINGS = ['donors', 'protect', 'inFront', 'belongs', 'belongsNot'] as const;
export type Painting = (typeof PAINTINGS)[number];

/** What can be set in five steps, each seen before it is chosen. */
export type Setting = 'closeness' | 'light';
export const SETTING_LEVELS = [0, 25, 50, 75, 100] as const;
export const sampleId = (setting: Setting, level: number): string => `${setting}/${level}`;

export const takeId = (spec: TakeSpec): string => `${spec.strategy}/${spec.seed}`;

/** Names what is in sight: the picture as it stands, or the draft's new frame with the chosen take. */
export function gazeOf({ source, base, reframed }: DeskView, draft: Draft): string {
  if (!reframed || reframed.key !== shapeKey(draft)) return `${source.key} ${base.length}`;
  return `${reframed.source.key} ${draft.chosen ? takeId(draft.chosen) : ''}`;
}

/** Everything behind the Bench that is not plain state: the picture, the computing workers, results as pixels. */
export interface Desk {
  picture: PictureDesk;
  view(): DeskView;
  subscribe(listener: () => void): () => void;
  /** Makes the first or the next round of takes for the draft. */
  makeTakes(): Promise<void>;
  cancel(): void;
  /** Makes the samples of the chosen take that are missing, as long as nothing else is to be done. */
  makeSamples(): Promise<void>;
  /** Marks what has the colour at a photo point, or is near-white, near-black or without data. */
  markReach(target: ReachTarget, combine: Combine): Promise<void>;
  /** Marks the subject inside a loop. */
  markSubject(loop: MarkShape): Promise<void>;
  /** Adds the cast shadow of what is marked; false where none was found. */
  addShadow(): Promise<boolean>;
  /** What sets the picture straight, as far as its lines tell it. */
  proposeUpright(): Promise<UprightProposal>;
  /** The place in the picture, before the open step, that the eye is drawn to first. */
  firstFixation(): Promise<Fixation | undefined>;
  /** Uses the draft as it is, of which there is but one take. */
  useAsItIs(): Promise<void>;
  /** The whole sphere before the open step, reduced until its longer side is under twice so many px. */
  sphereShown(longestPx: number): Promise<ImageBitmap>;
  /** Goes into the direct view that suits what is marked on the flat sphere; false where there is none. */
  goIntoView(): Promise<boolean>;
  /** Goes into the direct view of what is missing of the sphere around a pole, with that marked; false if nothing is. */
  gapView(pole: Pole): Promise<boolean>;
  /** Clears what a stroke went over, as a step of its own. */
  strokeClear(stroke: MarkShape): void;
  /** Begins to keep sizes in step with the ground, by the picture's horizon or a guess at it. */
  followGround(): Promise<void>;
  /** Uses the chosen take and begins to make a part of it anew. */
  refine(): void;
  /** Parts the mark into its areas, to be worked on one after the other. Returns how many there are. */
  partAreas(): Promise<number>;
  /** The chosen take becomes a step. */
  takeOver(): void;
  /** The place that a step changed, before and after it, as small pictures; undefined until it has been computed. */
  stepHalves(index: number, size: Size): Promise<[ImageBitmap, ImageBitmap] | undefined>;
  /** The finished picture. Waits for what is being computed again. */
  finished(): Promise<Stand>;
  /** Where the photo lies in the finished picture, if margins were added around it. */
  photoInside(): Promise<Quad | undefined>;
  close(): void;
}

export async function openDesk(store: AppStore, db: FingoDatabase, project: Project, blob: Blob): Promise<Desk> {
  const picture = await openPicture(blob, project.source.fileName, project.source.sphere);
  const pool = createWorkerPool(Math.min(4, Math.max(2, navigator.hardwareConcurrency - 1)), () => {
    return new Worker(new URL('../../workers/compute.worker.ts', import.meta.url), { type: 'module' });
  });
  const results = createMemoryStore(MEMORY_BYTES, createResultStore(db, DATABASE_BYTES));
  const workshop = createWorkshop(picture.source, pool, results);
  const listeners = new Set<() => void>();
  let stands: Stand[] = [workshop.origin];
  let view: DeskView = {
    source: picture.source,
    untouched: picture.source,
    base: [],
    isTurning: false,
    takes: new Map(),
    reports: new Map(),
    samples: new Map(),
    painted: {},
  };
  let stepsShown: Step[] | undefined;
  let replaying = new AbortController();
  let replayed: Promise<void> = Promise.resolve();
  let making: AbortController | undefined;
  let makingFor = '';
  let settling: ReturnType<typeof setTimeout> | undefined;

  const show = (change: Partial<DeskView>): void => {
    view = { ...view, ...change };
    listeners.forEach((listener) => listener());
  };
  const bench = () => store.getState().bench;
  const draftNow = (): Draft => bench().project!.draft;
  const tell = (error: unknown): void => {
    if (error instanceof DOMException && error.name === 'AbortError') return;
    store.dispatch(benchActions.troubleTold(serialiseError(error).message));
  };

  /** The stand that the draft works on: before the open step, or after the last. */
  const standOf = ({ editing }: Draft): Stand => {
    const index = editing ? bench().project!.steps.findIndex((step) => step.id === editing) : -1;
    const wanted = index >= 0 ? index : stands.length - 1;
    return stands[Math.min(wanted, stands.length - 1)]!;
  };

  const replay = (steps: Step[]): void => {
    stepsShown = steps;
    replaying.abort();
    replaying = new AbortController();
    const { signal } = replaying;
    replayed = workshop
      .replay(steps, { signal, onStep: (index) => store.dispatch(benchActions.recomputingStep(index)) })
      .then(
        (next) => {
          // One that was overtaken may still come to its end, after the one that overtook it.
          if (signal.aborted) return;
          stands = next;
          refreshBase();
        },
        (error: unknown) => tell(error),
      )
      .finally(() => {
        if (!signal.aborted) store.dispatch(benchActions.recomputingStep(-1));
      });
  };

  let editingShown: string | undefined;
  let viewShown: Draft['view'];
  /** What is looked at and marked: the stand that the draft works on, or what its direct view shows of that. */
  let shown = workshop.origin;
  /** The direct view that `shown` is. */
  let shownThrough: Draft['view'];
  let refreshes = 0;
  const refreshBase = (): void => {
    const { editing, view: through } = draftNow();
    editingShown = editing;
    viewShown = through;
    const refresh = ++refreshes;
    const showStand = (stand: Stand): void => {
      if (refresh !== refreshes) return;
      shown = stand;
      shownThrough = through;
      const { source, untouched, patches: base } = stand;
      show({ source, untouched, base, overview: undefined, atEdge: undefined, reframed: undefined, isTurning: false });
      markShown = undefined;
      follow();
    };
    const stand = standOf(draftNow());
    if (!through) {
      showStand(stand);
      return;
    }
    show({ isTurning: !sameView(through, shownThrough) });
    seenIn(stand, through).then(showStand, (error: unknown) => {
      tell(error);
      if (refresh === refreshes) store.dispatch(benchActions.viewLeft());
    });
  };
  /** A direct view of a stand, its pixels made. */
  const seenIn = async (stand: Stand, through: NonNullable<Draft['view']>): Promise<Stand> => {
    const seen = await workshop.seen(stand, through);
    await seen.source.crop({ x: 0, y: 0, width: 1, height: 1 });
    return seen;
  };

  let overviewAsked = false;
  const followOverview = async (): Promise<void> => {
    overviewAsked = true;
    try {
      const { source, base } = view;
      const overview = await picture.overview({ source, patches: base }, OVERVIEW_PX);
      if (view.source === source) show({ overview });
      const atEdge = await picture.atEdge({ source, patches: base });
      if (view.source === source) show({ atEdge });
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
      show({ outline: undefined, cutOut: undefined });
      return;
    }
    try {
      const outline = await picture.outline(draft.mark, view.source.photo);
      if (draftNow().mark === draft.mark) show({ outline });
    } catch (error) {
      tell(error);
    }
  };

  /** What the cut-out depends on. */
  const subjectOf = (draft: Draft): SubjectParams => ({
    mark: draft.mark,
    ...(draft.belongs && { belongs: draft.belongs }),
    ...(draft.belongsNot && { belongsNot: draft.belongsNot }),
  });
  const subjectStand = (draft: Draft): Stand => {
    if (draft.reads !== 'original') return shown;
    const { key, untouched } = shown;
    return draft.view ? { key: `${key} untouched`, source: untouched, patches: [], untouched } : workshop.origin;
  };
  const sameSubject = (a: Draft, b: Draft): boolean =>
    a.mark === b.mark && a.belongs === b.belongs && a.belongsNot === b.belongsNot && a.reads === b.reads;
  let cutOutShown: Draft | undefined;
  let cutting = new AbortController();
  const followSubject = async (draft: Draft): Promise<void> => {
    cutOutShown = draft;
    cutting.abort();
    cutting = new AbortController();
    show({ cutOut: undefined });
    try {
      const cutOut = await workshop.cutOut(subjectStand(draft), subjectOf(draft), cutting.signal);
      await makeBitmap(cutOut.image);
      if (sameSubject(draftNow(), draft)) show({ cutOut });
    } catch (error) {
      tell(error);
    }
  };

  const cancel = (): void => {
    clearTimeout(settling);
    making?.abort();
    making = undefined;
    if (view.preview) show({ preview: undefined });
    if (bench().work.stage) store.dispatch(benchActions.workEnded());
  };

  let reportedAt = 0;
  const report = ({ stage, share }: Progress): void => {
    if (performance.now() - reportedAt < REPORT_MS) return;
    reportedAt = performance.now();
    store.dispatch(benchActions.workReported({ stage, share }));
  };

  /** Runs one piece of work on the draft; whatever ran before is cancelled. */
  const work = async (run: (signal: AbortSignal) => Promise<void>): Promise<void> => {
    clearTimeout(settling);
    sampling.abort();
    making?.abort();
    const controller = new AbortController();
    making = controller;
    makingFor = fingerprint(draftNow());
    store.dispatch(benchActions.workReported({ stage: 'Starting', share: 0 }));
    try {
      await replayed;
      controller.signal.throwIfAborted();
      await run(controller.signal);
    } catch (error) {
      tell(error);
    } finally {
      if (making === controller) cancel();
    }
  };

  const viewOf = (made: readonly RankedTake[]): Pick<DeskView, 'takes' | 'reports'> => ({
    takes: new Map(made.map(({ spec, result }) => [takeId(spec), result.patches])),
    reports: new Map(made.flatMap(({ spec, result }) => (result.report ? [[takeId(spec), result.report]] : []))),
  });

  /** The subject inside a mark, as a mark of its own. */
  const foundSubject = async (mark: Mark, signal: AbortSignal): Promise<Mark> => {
    const { rect, image } = await workshop.cutOut(shown, { mark }, signal);
    const data = new Uint8Array(rect.width * rect.height);
    for (let i = 0; i < data.length; i++) data[i] = image.data[4 * i + 3]!;
    return markFromMask({ width: rect.width, height: rect.height, data }, rect);
  };

  let sampling = new AbortController();
  let sampledFor = '';
  const makeSamples = async (): Promise<void> => {
    const draft = draftNow();
    const key = `${fingerprint(draft)} ${draft.chosen ? takeId(draft.chosen) : ''}`;
    if (making || !draft.chosen || draft.takesFor !== fingerprint(draft) || sampledFor === key) return;
    sampling.abort();
    sampling = new AbortController();
    const { signal } = sampling;
    sampledFor = key;
    show({ samples: new Map() });
    const params = paramsOf(draft);
    try {
      // Light first: it needs no new matching.
      for (const setting of ['light', 'closeness'] as const) {
        for (const level of SETTING_LEVELS) {
          const changed = { ...params, take: draft.chosen, [setting]: level };
          const { patches } = await workshop.apply(standOf(draft), draft.what!, changed, { signal });
          show({ samples: new Map([...view.samples, [sampleId(setting, level), patches]]) });
        }
      }
    } catch (error) {
      sampledFor = '';
      tell(error);
    }
  };

  const paintedShown: Partial<Record<Painting, Draft['donors']>> = {};
  const followPainting = async (draft: Draft, painting: Painting): Promise<void> => {
    const mark = draft[painting];
    paintedShown[painting] = mark;
    try {
      const outline = mark && (await picture.outline(mark, view.source.photo));
      if (draftNow()[painting] !== mark) return;
      const { [painting]: _, ...rest } = view.painted;
      show({ painted: outline ? { ...rest, [painting]: outline } : rest });
    } catch (error) {
      tell(error);
    }
  };

  const keepTakes = (made: readonly (RankedTake & { round: number })[], firstOfRound: boolean): void => {
    const known = draftNow().takes;
    const ranked = distinctTakes(made);
    const takes = ranked.map(({ spec, result, round }): DraftTake => ({
      spec,
      rank: result.rank,
      round,
      setAside: known.some((take) => takeId(take.spec) === takeId(spec) && take.setAside),
    }));
    // The latest round first, each with its best first.
    takes.sort((a, b) => b.round - a.round);
    const { takes: pixels, reports } = viewOf(made);
    const { chosen } = draftNow();
    const stays = !firstOfRound && chosen && takes.some((take) => takeId(take.spec) === takeId(chosen));
    show({ takes: pixels, reports, preview: undefined });
    store.dispatch(
      benchActions.takesChanged({ takes, chosen: stays ? chosen : takes.find((take) => !take.setAside)?.spec }),
    );
  };

  const makeTakes = (): Promise<void> =>
    work(async (signal) => {
      if (whatIsMissing(draftNow())) return;
      store.dispatch(benchActions.roundStarted());
      const draft = draftNow();
      await carryOver(draft, signal);
      const made = await restoredTakes(draft, signal);
      const round = made.reduce((last, take) => Math.max(last, take.round), -1) + 1;
      const params = paramsOf(draft);
      // Which take was put up by itself: the user may have picked another meanwhile.
      let putUp: TakeSpec | undefined;
      await workshop.makeTakes(standOf(draft), draft.what!, params, round, {
        signal,
        onProgress: (progress) => {
          report(progress);
          if (progress.preview && !putUp) show({ preview: progress.preview });
        },
        onTake: (take) => {
          made.push({ ...take, round });
          keepTakes(made, putUp === undefined);
          putUp ??= draftNow().chosen;
        },
      });
      const { chosen, takes } = draftNow();
      const best = takes.find((take) => !take.setAside);
      const isUntouched = !chosen || (putUp && takeId(chosen) === takeId(putUp));
      if (best && isUntouched) store.dispatch(benchActions.takeChosen(best.spec));
    });

  /** The pixels of takes that the draft already has, from the stores or computed again. */
  const restoredTakes = async (draft: Draft, signal: AbortSignal): Promise<(RankedTake & { round: number })[]> => {
    const restored: (RankedTake & { round: number })[] = [];
    for (const { spec, round } of draft.takes) {
      const result = await workshop.apply(
        standOf(draft),
        draft.what!,
        { ...paramsOf(draft), take: spec },
        {
          signal,
          onProgress: report,
        },
      );
      restored.push({ spec, result, round });
    }
    return restored;
  };

  const restoreTakes = (): Promise<void> =>
    work(async (signal) => {
      try {
        await carryOver(draftNow(), signal);
        const made = await restoredTakes(draftNow(), signal);
        show(viewOf(made));
      } catch (error) {
        // Broken off or failed: without their pixels they are no takes.
        store.dispatch(benchActions.takesChanged({ takes: [], chosen: undefined }));
        throw error;
      }
    });

  /** Brings what is shown in line with the state. */
  const follow = (): void => {
    const project = bench().project;
    if (!project) return;
    const { draft, steps } = project;
    if (steps !== stepsShown) {
      replay(steps);
      return;
    }
    if (draft.editing !== editingShown || !sameView(draft.view, viewShown)) {
      refreshBase();
      return;
    }
    // What is shown is not yet what the draft's marks lie on.
    if (view.isTurning) return;
    if (draft.reframe && !view.overview && !overviewAsked) void followOverview();
    if (draft.mark !== markShown) void followMark(draft);
    for (const painting of PAINTINGS) {
      if (draft[painting] !== paintedShown[painting]) void followPainting(draft, painting);
    }
    const wantsCutOut = isPlacing(draft.what) && isMarked(draft);
    if (!wantsCutOut && view.cutOut) show({ cutOut: undefined });
    if (!wantsCutOut) cutOutShown = undefined;
    else if (!cutOutShown || !sameSubject(draft, cutOutShown)) void followSubject(draft);
    followTakes(draft);
    followStretch(draft);
    void followGaze(draft);
  };

  let gazeAsked = '';
  const followGaze = async (draft: Draft): Promise<void> => {
    const of = gazeOf(view, draft);
    const wanted = bench().overlays.gaze ? of : '';
    if (wanted === gazeAsked) return;
    gazeAsked = wanted;
    if (!wanted) {
      show({ gaze: undefined });
      return;
    }
    const take = draft.chosen && view.takes.get(takeId(draft.chosen));
    const isMade = view.reframed?.key === shapeKey(draft) && view.reframed !== undefined;
    const inSight = isMade
      ? { source: view.reframed!.source, patches: take ?? [] }
      : { source: view.source, patches: view.base };
    try {
      const fixations = await picture.fixations(inSight, MOST_FIXATIONS);
      if (gazeAsked === of) show({ gaze: { fixations, of } });
    } catch (error) {
      tell(error);
    }
  };

  /** A stretched picture is shown as soon as its settings rest. */
  let stretchedFor: string | undefined;
  const followStretch = (draft: Draft): void => {
    const key = draft.stretch && shapeKey(draft);
    if (key === stretchedFor) return;
    stretchedFor = key;
    clearTimeout(settling);
    if (key === undefined || !isStretched(draft, view.source.photo)) return;
    settling = setTimeout(() => void work((signal) => carryOver(draftNow(), signal)), SETTLE_MS);
  };

  const followTakes = (draft: Draft): void => {
    if (draft.takes.length === 0) {
      if (view.takes.size > 0) show({ takes: new Map(), reports: new Map(), samples: new Map() });
      if (making && makingFor !== fingerprint(draft)) cancel();
      return;
    }
    if (draft.takesFor !== fingerprint(draft)) {
      // A setting changed under existing takes: make them anew once it rests, unless that has begun.
      if (making && makingFor === fingerprint(draft)) return;
      making?.abort();
      clearTimeout(settling);
      settling = setTimeout(() => void makeTakes(), SETTLE_MS);
    } else if (!making && draft.takes.some((take) => !view.takes.has(takeId(take.spec)))) {
      void restoreTakes();
    }
  };

  /** The stand in the draft's new frame, as far as it is known. */
  let reframedStand: Stand | undefined;
  /** Carries the picture over into the draft's frame, if it has another one, and shows it there. */
  const carryOver = async (draft: Draft, signal: AbortSignal): Promise<void> => {
    const key = shapeKey(draft);
    if (key === undefined) return;
    reframedStand = await workshop.reshaped(standOf(draft), draft.what!, paramsOf(draft), signal);
    show({ reframed: { source: reframedStand.source, key } });
  };

  const takeOver = (): void => {
    // Shown as part of the picture at once; the replay that follows finds the same pixels in the store.
    const { chosen } = draftNow();
    const patches = chosen && view.takes.get(takeId(chosen));
    if (!patches) return;
    if (view.reframed && reframedStand) {
      const { source, untouched } = reframedStand;
      show({ source, untouched, base: patches, reframed: undefined });
    } else show({ base: [...view.base, ...patches] });
    store.dispatch(benchActions.takeUsed());
  };

  /** The whole picture as it stands, small. */
  const wholeIn = async (stand: Stand, size: Size): Promise<ImageBitmap> =>
    middleOf(await picture.overview(stand, 2 * Math.max(size.width, size.height)), size);

  /** The place that a step changed in its direct view, before and after. */
  const halvesInView = async (
    before: Stand,
    { type, params, enabled }: Step,
    size: Size,
  ): Promise<[ImageBitmap, ImageBitmap] | undefined> => {
    if (!enabled) return undefined;
    const { patches } = await workshop.apply(before, type, params, { signal: new AbortController().signal });
    const [changed] = patches;
    if (!changed) return undefined;
    const { source } = await workshop.seen(before, params.view!);
    const image = await source.crop(changed.rect);
    const halfOf = ({ data, width, height }: Patch['image']): Promise<ImageBitmap> =>
      middleOf(new ImageData(data, width, height), size);
    return Promise.all([halfOf(image), halfOf(changed.image)]);
  };

  const unsubscribe = store.subscribe(follow);
  follow();

  return {
    picture,
    view: () => view,
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    makeTakes,
    cancel,
    makeSamples,
    async markReach(target, combine) {
      const { reachTolerance: tolerance, reachConnected: connected } = bench();
      try {
        const { shapes } = await picture.reach(shown, target, { tolerance, connected });
        for (const shape of shapes) store.dispatch(benchActions.shapeDrawn({ ...shape, combine }));
      } catch (error) {
        tell(error);
      }
    },
    async markSubject(loop) {
      await work(async (signal) => {
        const found = await foundSubject({ ...EMPTY_MARK, shapes: [{ ...loop, combine: 'startOver' }] }, signal);
        const [shape] = found.shapes;
        if (shape?.kind !== 'raster') return;
        store.dispatch(benchActions.shapeDrawn({ ...shape, combine: loop.combine }));
        // A tight mark cuts its thing's soft rim: some slack is needed to rebuild the place.
        const slack = Math.max(SMALLEST_SLACK_PX, Math.round(SLACK_SHARE * Math.max(shape.width, shape.height)));
        if (bench().paintTarget === 'mark' && draftNow().mark.growPx < slack) {
          store.dispatch(benchActions.markAdjusted({ growPx: slack }));
        }
      });
    },
    async addShadow() {
      const { mark } = draftNow();
      let isFound = true;
      await work(async (signal) => {
        // The slack of a mark may hold the shadow's beginning: what casts it is the subject alone.
        const subject = await foundSubject(mark, signal);
        const shadow = await picture.shadow(shown, subject);
        isFound = shadow.shapes.length > 0;
        if (isFound && draftNow().mark === mark) store.dispatch(benchActions.shadowAdded(shadow));
      });
      return isFound;
    },
    proposeUpright: () => picture.upright(standOf(draftNow())),
    async firstFixation() {
      const [first] = await picture.fixations(standOf(draftNow()), 1);
      return first;
    },
    async useAsItIs() {
      await makeTakes();
      takeOver();
    },
    sphereShown: (longestPx) => picture.overview(standOf(draftNow()), longestPx),
    async goIntoView() {
      try {
        const { mark: flat } = draftNow();
        store.dispatch(benchActions.viewEntered(await picture.viewOfMark(flat, view.source.photo)));
        return true;
      } catch (error) {
        tell(error);
        return false;
      }
    },
    async gapView(pole) {
      try {
        const found = await picture.gapView(standOf(draftNow()), pole);
        if (found) store.dispatch(benchActions.viewEntered(found));
        return found !== undefined;
      } catch (error) {
        tell(error);
        return false;
      }
    },
    strokeClear(stroke) {
      const mark: Mark = { ...EMPTY_MARK, shapes: [{ ...stroke, combine: 'startOver' }] };
      const { draft, steps, source } = bench().project!;
      if (draft.view || !source.sphere) {
        store.dispatch(benchActions.strokeCleared({ mark, take: strokeTake(mark, steps, draft.view) }));
        return;
      }
      // Rolled out flat, the surroundings of a stroke are stretched: it is cleared in a direct view.
      void picture
        .viewOfMark(mark, view.source.photo)
        .then((found) => store.dispatch(benchActions.strokeCleared({ ...found, take: strokeTake(mark, []) })), tell);
    },
    async followGround() {
      try {
        const horizon = (await picture.horizon(shown)) ?? GUESSED_HORIZON * shown.source.photo.height;
        store.dispatch(benchActions.gestureEnded());
        store.dispatch(benchActions.horizonSet(Math.round(horizon)));
      } catch (error) {
        tell(error);
      }
    },
    refine() {
      takeOver();
      store.dispatch(benchActions.refiningStarted());
    },
    async partAreas() {
      const { mark } = draftNow();
      const areas = await picture.areas(mark, view.source.photo);
      if (draftNow().mark === mark) store.dispatch(benchActions.areasParted(areas));
      return areas.length;
    },
    takeOver,
    async stepHalves(index, size) {
      await replayed;
      const [before, after] = [stands[index], stands[index + 1]];
      if (before && after && before.source !== after.source) {
        return Promise.all([wholeIn(before, size), wholeIn(after, size)]);
      }
      const step = bench().project!.steps[index];
      if (!before || !after || !step) return undefined;
      if (step.params.view) return halvesInView(before, step, size);
      const changed = after.patches.slice(before.patches.length)[0];
      if (!changed) return undefined;
      const rect = changed.rect;
      const halfOf = async (stand: Stand): Promise<ImageBitmap> => {
        const image = await stand.source.crop(rect);
        composePatches(image, rect, stand.patches);
        return middleOf(new ImageData(image.data, image.width, image.height), size);
      };
      return Promise.all([halfOf(before), halfOf(after)]);
    },
    async photoInside() {
      await replayed;
      const { steps } = bench().project!;
      let inside: Quad | undefined;
      for (const [index, { type, enabled, params }] of steps.entries()) {
        if (type !== 'reframe' || !enabled) continue;
        const { frame } = reframeSchema.parse(params);
        const { photo } = stands[index]!.source;
        if (vacantSides(frame, photo).length > 0) inside = photoInFrame(frame, photo);
        else if (inside) inside = throughFrame(inside, frame, photo);
      }
      return inside;
    },
    async finished() {
      await replayed;
      return stands.at(-1)!;
    },
    close() {
      unsubscribe();
      cancel();
      replaying.abort();
      cutting.abort();
      sampling.abort();
      pool.close();
      picture.close();
    },
  };
}

/** The middle of a picture, as large as a size of the same ratio fits in, at that size. */
function middleOf(image: ImageData | ImageBitmap, size: Size): Promise<ImageBitmap> {
  const scale = Math.max(size.width / image.width, size.height / image.height);
  const [width, height] = [size.width / scale, size.height / scale];
  return createImageBitmap(
    image,
    Math.max(0, Math.floor((image.width - width) / 2)),
    Math.max(0, Math.floor((image.height - height) / 2)),
    Math.max(1, Math.floor(width)),
    Math.max(1, Math.floor(height)),
    { resizeWidth: size.width, resizeHeight: size.height, resizeQuality: 'medium' },
  );
}
