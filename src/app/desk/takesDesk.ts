import type { Progress } from '../../core/progress.ts';
import { stepFailed, type Rendering } from '../../engine/workshop.ts';
import type { TakeSpec } from '../../operations/rebuild/rebuildSchema.ts';
import { distinctTakes, type RankedTake } from '../../operations/takes.ts';
import type { Mark } from '../../operations/marks/markSchema.ts';
import type { Draft, DraftTake } from '../../operations/draft.ts';
import { benchActions } from '../state/benchSlice.ts';
import { failedBefore } from '../state/benchState.ts';
import { areFresh, fingerprint, kindOfDraft, paramsOf, shapeKey, whatIsMissing } from '../../operations/draft.ts';
import type { DeskContext } from './deskContext.ts';
import { sampleId, SETTING_LEVELS, takeId, type DeskView } from './deskView.ts';
import type { RenderingDesk } from './renderingDesk.ts';

/** Changes of settings that come faster than this are computed once. */
const SETTLE_MS = 350;
/** Progress is told at most this often. */
const REPORT_MS = 120;

/** The draft's takes and samples: making them, keeping them in step with the draft, using one. */
export interface TakesDesk {
  follow(draft: Draft): void;
  /**
   * Runs what looks for something to mark; takes that are being made are dropped. It goes on while the draft changes.
   */
  search(stage: string, run: (signal: AbortSignal) => Promise<void>): Promise<void>;
  /** Makes takes, of what is being looked for once that has ended; whatever else ran is cancelled. */
  makeTakes(): Promise<void>;
  makeSamples(): Promise<void>;
  /** Whether the chosen take is there, and made on the picture as it stands. */
  canTakeOver(): boolean;
  takeOver(): void;
  cancel(): void;
  close(): void;
}

export function createTakesDesk(context: DeskContext, renderings: RenderingDesk): TakesDesk {
  const { workshop, store, bench, project, draft: draftNow, view, show, tell } = context;
  let making: AbortController | undefined;
  let makingFor = '';
  /** The mark that takes are being made of, if that is what is being made. */
  let roundOf: Mark | undefined;
  /** What is being looked for; comes to true if it wasn't broken off. */
  let searching: Promise<boolean> | undefined;
  let settling: ReturnType<typeof setTimeout> | undefined;

  const cancel = (): void => {
    clearTimeout(settling);
    making?.abort();
    making = undefined;
    roundOf = undefined;
    if (view().preview) show({ preview: undefined });
    if (bench().work.stage) store.dispatch(benchActions.workEnded());
  };

  let reportedAt = 0;
  const report = ({ stage, share }: Progress): void => {
    if (performance.now() - reportedAt < REPORT_MS) return;
    reportedAt = performance.now();
    store.dispatch(benchActions.workReported({ stage, share }));
  };

  /** Runs one piece of work on the draft; whatever ran before is cancelled. False if this one was, or failed. */
  const work = async (stage: string, run: (signal: AbortSignal) => Promise<void>): Promise<boolean> => {
    clearTimeout(settling);
    sampling.abort();
    making?.abort();
    const controller = new AbortController();
    making = controller;
    roundOf = undefined;
    makingFor = nameOf(draftNow());
    store.dispatch(benchActions.workReported({ stage, share: 0 }));
    try {
      await renderings.settled();
      controller.signal.throwIfAborted();
      requireWhole();
      await run(controller.signal);
      return !controller.signal.aborted;
    } catch (error) {
      tell(error);
      return false;
    } finally {
      if (making === controller) cancel();
    }
  };

  /** Names what a draft gives: its parameters, and the picture that it works on. */
  const nameOf = (draft: Draft): string => `${fingerprint(draft)} on ${renderings.of(draft).key}`;
  const isFresh = (draft: Draft): boolean => areFresh(draft, renderings.of(draft).key);

  /** Nothing is made on a picture that lacks a step: only that step, or one before it, can be worked on. */
  const requireWhole = (): void => {
    const failed = failedBefore(bench());
    if (failed) throw stepFailed(failed, project().steps);
  };

  const search: TakesDesk['search'] = async (stage, run) => {
    const over = work(stage, run);
    searching = over;
    await over;
    if (searching === over) searching = undefined;
  };

  let sampling = new AbortController();
  let sampledFor = '';
  const makeSamples = async (): Promise<void> => {
    const draft = draftNow();
    const key = `${nameOf(draft)} ${draft.chosen ? takeId(draft.chosen) : ''}`;
    if (making || !draft.chosen || !isFresh(draft) || sampledFor === key) return;
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
          const { patches } = await workshop.apply(renderings.of(draft), draft.change!.kind, changed, { signal });
          show({ samples: new Map([...view().samples, [sampleId(setting, level), patches]]) });
        }
      }
    } catch (error) {
      sampledFor = '';
      tell(error);
    }
  };

  const viewOf = (made: readonly RankedTake[]): Pick<DeskView, 'takes' | 'reports'> => ({
    takes: new Map(made.map(({ spec, result }) => [takeId(spec), result.patches])),
    reports: new Map(made.flatMap(({ spec, result }) => (result.report ? [[takeId(spec), result.report]] : []))),
  });

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

  const makeTakes = async (): Promise<void> => {
    if (searching && !(await searching)) return;
    await work('Starting', async (signal) => {
      if (!draftNow().change || whatIsMissing(draftNow(), view().source.photo)) return;
      store.dispatch(benchActions.roundStarted(renderings.of(draftNow()).key));
      const draft = draftNow();
      roundOf = draft.mark;
      await carryOver(draft, signal);
      const made = await restoredTakes(draft, signal);
      const round = made.reduce((last, take) => Math.max(last, take.round), -1) + 1;
      const params = paramsOf(draft);
      // Which take was put up by itself: the user may have picked another meanwhile.
      let putUp: TakeSpec | undefined;
      await workshop.makeTakes(renderings.of(draft), draft.change!.kind, params, round, {
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
  };

  /** The pixels of takes that the draft already has, from the stores or computed again. */
  const restoredTakes = async (draft: Draft, signal: AbortSignal): Promise<(RankedTake & { round: number })[]> => {
    const restored: (RankedTake & { round: number })[] = [];
    for (const { spec, round } of draft.takes) {
      const result = await workshop.apply(
        renderings.of(draft),
        draft.change!.kind,
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

  const restoreTakes = (): Promise<boolean> =>
    work('Starting', async (signal) => {
      try {
        await carryOver(draftNow(), signal);
        const on = renderings.of(draftNow()).key;
        const made = await restoredTakes(draftNow(), signal);
        show(viewOf(made));
        store.dispatch(benchActions.takesRestored(on));
      } catch (error) {
        // Broken off or failed: without their pixels they are no takes.
        store.dispatch(benchActions.takesChanged({ takes: [], chosen: undefined }));
        throw error;
      }
    });

  /** A picture that is only carried over is shown as soon as its settings rest. */
  let carriedFor: string | undefined;
  const followShape = (draft: Draft): void => {
    const key = kindOfDraft(draft)?.draft.showsAtOnce ? shapeKey(draft) : undefined;
    if (key === carriedFor) return;
    carriedFor = key;
    clearTimeout(settling);
    if (key === undefined || whatIsMissing(draft, view().source.photo)) return;
    settling = setTimeout(() => void work('Starting', (signal) => carryOver(draftNow(), signal)), SETTLE_MS);
  };

  const followTakes = (draft: Draft): void => {
    // What is known waits until the step is mended.
    if (failedBefore(bench())) return;
    if (draft.takes.length === 0) {
      if (view().takes.size > 0) show({ takes: new Map(), reports: new Map(), samples: new Map() });
      if (!making || searching || makingFor === nameOf(draft)) return;
      // Another mark is another thing to do; of the same one takes are made as it lies now.
      const goesOn = roundOf === draft.mark;
      cancel();
      if (goesOn) settling = setTimeout(() => void makeTakes(), SETTLE_MS);
      return;
    }
    if (!isFresh(draft)) {
      // A setting or an earlier step changed under existing takes: make them anew once it rests, unless that has begun.
      if (making && makingFor === nameOf(draft)) return;
      if (!searching) making?.abort();
      clearTimeout(settling);
      settling = setTimeout(() => void makeTakes(), SETTLE_MS);
    } else if (!making && draft.takes.some((take) => !view().takes.has(takeId(take.spec)))) {
      void restoreTakes();
    }
  };

  /** The rendering in the draft's new frame, as far as it is known. */
  let reframedRendering: Rendering | undefined;
  /** Carries the picture over into the draft's frame, if it has another one, and shows it there. */
  const carryOver = async (draft: Draft, signal: AbortSignal): Promise<void> => {
    const key = shapeKey(draft);
    if (key === undefined) return;
    reframedRendering = await workshop.reshaped(renderings.of(draft), draft.change!.kind, paramsOf(draft), signal);
    show({ reframed: { source: reframedRendering.source, key } });
  };

  const canTakeOver = (): boolean => {
    const draft = draftNow();
    const isThere = draft.chosen !== undefined && view().takes.has(takeId(draft.chosen));
    return isThere && !renderings.isReplaying() && isFresh(draft);
  };

  const takeOver = (): void => {
    // Shown as part of the picture at once; the replay that follows finds the same pixels in the store.
    const { chosen } = draftNow();
    const known = { then: renderings.reshapes(), now: reframedRendering?.reshape };
    const patches = chosen && view().takes.get(takeId(chosen));
    if (!patches || !canTakeOver()) return;
    if (view().reframed && reframedRendering) {
      const { source, untouched } = reframedRendering;
      show({ source, untouched, base: patches, reframed: undefined });
    } else show({ base: [...view().base, ...patches] });
    store.dispatch(benchActions.takeUsed(known));
  };

  return {
    follow(draft) {
      followTakes(draft);
      followShape(draft);
    },
    search,
    makeTakes,
    makeSamples,
    canTakeOver,
    takeOver,
    cancel,
    close() {
      cancel();
      sampling.abort();
    },
  };
}
