import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Rect, Size } from '../core/image/rect.ts';
import { operationOf, type StepParams } from '../operations/catalogue.ts';
import type { Patch, StepResult } from '../operations/operation.ts';
import { subjectRegion, type SubjectParams } from '../operations/rebuild/placeMarked.ts';
import type { Step } from '../operations/recipe.ts';
import { planTakes, type RankedTake } from '../operations/takes.ts';
import { composePatches } from '../operations/composePatches.ts';
import type { OnProgress, Runner } from './protocol.ts';
import { resultKey } from './resultKey.ts';

/** Who owns the original's pixels. */
export interface PixelSource {
  photo: Size;
  /** Names the original: equal keys, equal pixels. */
  key: string;
  crop(rect: Rect): Promise<RasterImage>;
}

/** Results by key; what is missing is computed again. */
export interface ResultStore {
  get(key: string): Promise<StepResult | undefined>;
  set(key: string, result: StepResult): Promise<void>;
}

/** The picture as it stands after some steps: the original's key chained with theirs, and their patches in order. */
export interface Stand {
  key: string;
  patches: Patch[];
}

export interface Workshop {
  /** The untouched picture. */
  origin: Stand;
  /** What a change gives on a stand: from the store, or computed and stored. */
  apply(
    stand: Stand,
    type: string,
    params: StepParams,
    options: { signal: AbortSignal; lane?: number; alone?: boolean; onProgress?: OnProgress },
  ): Promise<StepResult>;
  /** The stand that follows when `result` of this change is taken over. */
  after(stand: Stand, type: string, params: StepParams, result: StepResult): Promise<Stand>;
  /** The stands after each step of a list (index 0: the origin); steps switched off change nothing. */
  replay(steps: readonly Step[], options: ReplayOptions): Promise<Stand[]>;
  /** A round of takes, each reported as soon as it is there. */
  makeTakes(stand: Stand, type: string, params: StepParams, round: number, options: TakeOptions): Promise<RankedTake[]>;
  /** The subject inside a mark as a patch with its matte as alpha. */
  cutOut(stand: Stand, subject: SubjectParams, signal: AbortSignal): Promise<Patch>;
}

export interface ReplayOptions {
  signal: AbortSignal;
  onStep?: (index: number, share: number) => void;
}

export interface TakeOptions {
  signal: AbortSignal;
  count?: number;
  onTake?: (take: RankedTake) => void;
  /** Share done of the whole round; previews only of the take that will be there first. */
  onProgress?: OnProgress;
}

/** Counts whenever the same parameters begin to give other pixels: results of before are then made anew. */
const ENGINE = 4;

/** Joins pixels, runner and store into the work on one picture. */
export function createWorkshop(source: PixelSource, runner: Runner, store: ResultStore): Workshop {
  const { photo } = source;
  const origin: Stand = { key: source.key, patches: [] };

  const cropStand = async (stand: Stand, rect: Rect): Promise<Patch> => {
    const image = await source.crop(rect);
    composePatches(image, rect, stand.patches);
    return { rect, image };
  };

  const keyOf = (stand: Stand, type: string, params: StepParams): Promise<string> => {
    const { version } = operationOf(type);
    return resultKey(stand.key, { engine: ENGINE, type, version, params });
  };

  const apply: Workshop['apply'] = async (stand, type, params, { signal, lane = 0, alone = true, onProgress }) => {
    const key = await keyOf(stand, type, params);
    const stored = await store.get(key);
    if (stored) return stored;
    signal.throwIfAborted();
    const operation = operationOf(type);
    const rects = operation.regions(params, photo);
    const readsOriginal = operation.readsOriginal?.(params) ?? false;
    const regions = await Promise.all(
      rects.map((rect, index) => cropStand(readsOriginal && index === 0 ? origin : stand, rect)),
    );
    const inputKey = readsOriginal ? `${stand.key} of ${origin.key}` : stand.key;
    const job = { kind: 'step' as const, type, params, photo, regions, inputKey, alone };
    const result = await runner.run(job, lane, signal, onProgress);
    await store.set(key, result);
    return result;
  };

  const after: Workshop['after'] = async (stand, type, params, result) => ({
    key: await keyOf(stand, type, params),
    patches: [...stand.patches, ...result.patches],
  });

  return {
    origin,
    apply,
    after,
    async replay(steps, { signal, onStep }) {
      const stands = [origin];
      for (const [index, step] of steps.entries()) {
        const stand = stands[index]!;
        onStep?.(index, 0);
        if (!step.enabled) {
          stands.push(stand);
          continue;
        }
        const result = await apply(stand, step.type, step.params, {
          signal,
          onProgress: ({ share }) => onStep?.(index, share),
        });
        stands.push(await after(stand, step.type, step.params, result));
      }
      return stands;
    },
    async makeTakes(stand, type, params, round, { signal, count, onTake, onProgress }) {
      const specs = planTakes(operationOf(type), round).slice(0, count);
      const takes: RankedTake[] = [];
      const shares = specs.map(() => 0);
      const make = async (k: number, lane: number, alone: boolean): Promise<void> => {
        const spec = specs[k]!;
        const onProgressOfTake: OnProgress = ({ preview, stage, share }) => {
          shares[k] = share;
          const done = shares.reduce((a, b) => a + b, 0) / specs.length;
          onProgress?.({ stage, share: done, ...(preview && k === 0 && { preview }) });
        };
        const options = { signal, lane, alone, onProgress: onProgressOfTake };
        const result = await apply(stand, type, { ...params, take: spec }, options);
        shares[k] = 1;
        takes.push({ spec, result });
        onTake?.({ spec, result });
      };
      // The first as soon as can be, by all threads together; then as many side by side as there are lanes.
      if (specs.length > 0) await make(0, 0, true);
      const lanes = Math.max(1, Math.min(runner.width, specs.length - 1));
      let next = 1;
      const runLane = async (lane: number): Promise<void> => {
        while (next < specs.length) await make(next++, lane, lanes === 1);
      };
      await Promise.all(Array.from({ length: lanes }, (_, lane) => runLane(lane)));
      return takes;
    },
    async cutOut(stand, subject, signal) {
      const region = await cropStand(stand, subjectRegion(subject.mark, photo));
      return runner.run({ kind: 'cutOut', subject, photo, region, inputKey: stand.key }, 0, signal);
    },
  };
}
