import type { RasterImage } from '../core/image/rasterImage.ts';
import { FingoError, serialiseError } from '../core/errors.ts';
import type { Rect } from '../core/image/rect.ts';
import type { StepParams } from '../operations/kind.ts';
import { kindOf } from '../operations/kinds.ts';
import type { Patch, Reshape, StepResult } from '../operations/computation.ts';
import { subjectRegion, type SubjectParams } from '../operations/rebuild/subjectRegions.ts';
import type { SphereView } from '../core/sphere/sphereView.ts';
import type { Reads } from '../operations/rebuild/rebuildSchema.ts';
import type { Step } from '../operations/recipe.ts';
import { planTakes, type RankedTake } from '../operations/takes.ts';
import type { TakeSpec } from '../operations/rebuild/rebuildSchema.ts';
import { layLayer } from '../operations/layLayer.ts';
import { composePatches } from '../operations/composePatches.ts';
import type { CutOut, OnProgress, Runner, StepJob } from './protocol.ts';
import type { PixelSource } from './pictureSource.ts';
import { resultKey } from '../operations/contentHash.ts';

/** Results by key; what is missing is computed again. */
export interface ResultStore {
  get(key: string): Promise<StepResult | undefined>;
  set(key: string, result: StepResult): Promise<void>;
}

/** The picture after some of the steps. */
export interface Rendering {
  /** The original's key chained with those of the steps. */
  key: string;
  /** The picture in its present frame, and the patches over it in order. */
  source: PixelSource;
  patches: Patch[];
  /** The original in the present frame. */
  untouched: PixelSource;
  /** How the last step carried the picture over, if it did. */
  reshape?: Reshape | undefined;
  /** What each step so far left, by its id. */
  earlier: ReadonlyMap<string, EarlierPicture>;
}

/** A picture with patches over it, of this name. */
interface NamedPicture {
  key: string;
  source: PixelSource;
  patches: Patch[];
}

/** A picture in the frame of its time, and what brings it into the present one. */
interface EarlierPicture extends NamedPicture {
  through: readonly ({ key: string; reshape: Reshape } | { key: string; view: SphereView })[];
}

const broughtThrough = (
  earlier: Rendering['earlier'],
  next: EarlierPicture['through'][number],
): Map<string, EarlierPicture> =>
  new Map([...earlier].map(([id, picture]) => [id, { ...picture, through: [...picture.through, next] }]));

/** An earlier picture in the present frame. */
async function inPresentFrame({ through, ...picture }: EarlierPicture): Promise<NamedPicture> {
  let now: NamedPicture = picture;
  for (const step of through) {
    const key = `${step.key} of ${now.key}`;
    const source =
      'view' in step
        ? await now.source.seen(step.view, now.patches, key)
        : await now.source.carried({ ...step.reshape, patches: now.patches }, key);
    now = { key, source, patches: [] };
  }
  return now;
}

export interface Workshop {
  /** The untouched picture. */
  origin: Rendering;
  /** The rendering on which a change is made: another one if it changes the frame, or is made in a view of a sphere. */
  reshaped(rendering: Rendering, type: string, params: StepParams, signal: AbortSignal): Promise<Rendering>;
  /** A small picture of what a change that carries the picture over would give. */
  glance(rendering: Rendering, type: string, params: StepParams, signal: AbortSignal): Promise<RasterImage>;
  /** What is seen of a sphere in a direct view, as a rendering of its own. */
  seen(rendering: Rendering, view: SphereView): Promise<Rendering>;
  /** What a change gives on a rendering: from the store, or computed and stored. */
  apply(rendering: Rendering, type: string, params: StepParams, options: ApplyOptions): Promise<StepResult>;
  /** The rendering that follows when `result` of this change is taken over, as the step of this id. */
  after(rendering: Rendering, type: string, params: StepParams, result: StepResult, id?: string): Promise<Rendering>;
  /** The picture that something is taken out of; the rendering's own where the step that left it is not among its own. */
  readFrom(rendering: Rendering, reads: Reads): Promise<NamedPicture>;
  /** The renderings after each step of a list; steps switched off change nothing. It ends at the first step that fails. */
  replay(steps: readonly Step[], options: ReplayOptions): Promise<Replayed>;
  /** A round of takes, each reported as soon as it is there. */
  makeTakes(
    rendering: Rendering,
    type: string,
    params: StepParams,
    round: number,
    options: TakeOptions,
  ): Promise<RankedTake[]>;
  /** The subject inside a mark. */
  cutOut(picture: NamedPicture, subject: SubjectParams, signal: AbortSignal): Promise<CutOut>;
}

export interface ApplyOptions {
  signal: AbortSignal;
  lane?: number;
  /** Whether no other job runs beside it. */
  alone?: boolean;
  onProgress?: OnProgress;
}

export interface Replayed {
  /** Index 0: the origin. Where a step failed, all that stands before it. */
  renderings: Rendering[];
  failed?: FailedStep;
}

/** A step that could not be made, and why: none after it was. */
export interface FailedStep {
  id: string;
  index: number;
  /** What is wrong and what to do, in a sentence. */
  message: string;
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
const ENGINE = 46;
/** So many pictures in other frames are remembered. */
const MAX_RESHAPED = 8;

const isUntouched = ({ source, untouched, patches }: Rendering): boolean =>
  source === untouched && patches.length === 0;

const NOTHING_TO_COMPUTE: StepResult = { patches: [], rank: 0, timings: {} };

/** Joins pixels, runner and store into the work on one picture. */
export function createWorkshop(source: PixelSource, runner: Runner, store: ResultStore): Workshop {
  const origin: Rendering = { key: source.key, source, patches: [], untouched: source, earlier: new Map() };

  const cropRendering = async (rendering: NamedPicture, rect: Rect): Promise<Patch> => {
    const image = await rendering.source.crop(rect);
    composePatches(image, rect, rendering.patches);
    return { rect, image };
  };

  const keyOf = (rendering: Rendering, type: string, params: StepParams): Promise<string> => {
    const { version } = kindOf(type);
    return resultKey(rendering.key, { engine: ENGINE, type, version, params });
  };

  /** Names a layer by what its pixels depend on alone: wherever it lies, whatever is beneath. */
  const layerKey = (type: string, content: unknown): Promise<string> => {
    const { version } = kindOf(type);
    return resultKey('layer', { engine: ENGINE, type, version, content });
  };

  /** The rendering on which a change is made: carried over first, if it changes the frame. Kept, as long as there is room. */
  const reshapedRenderings = new Map<string, Promise<Rendering>>();
  const remembered = async (key: string, make: () => Promise<Rendering>, signal?: AbortSignal): Promise<Rendering> => {
    const known = reshapedRenderings.get(key);
    if (known) {
      try {
        return await known;
      } catch (error) {
        // Who asked first may have cancelled; that is no reason to give up for who asked later.
        const isOthers = error instanceof DOMException && error.name === 'AbortError' && !signal?.aborted;
        if (!isOthers) throw error;
        if (reshapedRenderings.get(key) === known) reshapedRenderings.delete(key);
        return remembered(key, make, signal);
      }
    }
    const made = make();
    reshapedRenderings.set(key, made);
    for (const oldest of reshapedRenderings.keys()) {
      if (reshapedRenderings.size <= MAX_RESHAPED) break;
      reshapedRenderings.delete(oldest);
    }
    made.catch(() => reshapedRenderings.get(key) === made && reshapedRenderings.delete(key));
    return made;
  };

  /** The rendering last glanced at, so that what is dragged need not wait for its look again and again. */
  let lookedAt: { key: string; look: Promise<RasterImage> } | undefined;

  const seen: Workshop['seen'] = async (rendering, view) => {
    const key = await resultKey(rendering.key, { engine: ENGINE, view });
    return remembered(key, async () => {
      const source = await rendering.source.seen(view, rendering.patches, key);
      const untouched = isUntouched(rendering) ? source : await rendering.untouched.seen(view, [], `${key} untouched`);
      return { key, source, patches: [], untouched, earlier: broughtThrough(rendering.earlier, { key, view }) };
    });
  };

  const readFrom: Workshop['readFrom'] = async (rendering, reads) => {
    if (reads === 'original') return { key: `${rendering.key} untouched`, source: rendering.untouched, patches: [] };
    const earlier = reads === 'present' ? undefined : rendering.earlier.get(reads.after);
    return earlier ? inPresentFrame(earlier) : rendering;
  };

  const reshaped: Workshop['reshaped'] = async (rendering, type, params, signal) => {
    if (params.view) return seen(rendering, params.view);
    const kind = kindOf(type);
    const { photo } = rendering.source;
    const atOnce = kind.reshape?.(params, photo);
    if (!atOnce && !kind.reshapesByLook) return rendering;
    const cause = atOnce ?? { type, version: kind.version, params };
    const key = await resultKey(rendering.key, { engine: ENGINE, reshape: cause });
    const find = async (): Promise<Reshape> =>
      runner.run(
        { kind: 'reshape', type, params, photo, look: await rendering.source.look(rendering.patches) },
        0,
        signal,
      );
    return remembered(
      key,
      async () => {
        const reshape = atOnce ?? (await find());
        const carried = await rendering.source.carried({ ...reshape, patches: rendering.patches }, key);
        const untouched = isUntouched(rendering)
          ? carried
          : await rendering.untouched.carried({ ...reshape, patches: [] }, `${key} untouched`);
        const earlier = broughtThrough(rendering.earlier, { key, reshape });
        return { key, source: carried, patches: [], untouched, earlier, reshape };
      },
      signal,
    );
  };

  /** From the store, or computed by a job and stored. */
  const made = async (
    key: string,
    job: () => StepJob | undefined | Promise<StepJob | undefined>,
    { signal, lane = 0, onProgress }: ApplyOptions,
  ): Promise<StepResult> => {
    const stored = await store.get(key);
    if (stored) return stored;
    signal.throwIfAborted();
    const wanted = await job();
    if (!wanted) return NOTHING_TO_COMPUTE;
    const result = await runner.run(wanted, lane, signal, onProgress);
    await store.set(key, result);
    return result;
  };

  const apply: Workshop['apply'] = async (before, type, params, options) => {
    const { signal, alone = true } = options;
    const kind = kindOf(type);
    const rendering = await reshaped(before, type, params, signal);
    const { photo } = rendering.source;
    const job = { kind: 'step' as const, type, params, photo, before: before.source.photo, alone };
    if (kind.layer) {
      const lying = kind.layer.lies(params, photo);
      const key = await layerKey(type, kind.layer.content(params, photo));
      const result = await made(key, () => ({ ...job, regions: [], inputKey: key }), options);
      return { ...result, patches: layLayer(result.patches, lying, photo) };
    }
    const cut = async (): Promise<StepJob | undefined> => {
      const rects = kind.regions(params, photo, before.source.photo);
      if (rects.length === 0) return undefined;
      const read = await readFrom(rendering, kind.readsFrom?.(params) ?? 'present');
      const regions = await Promise.all(
        rects.map((rect, index) => cropRendering(index === 0 ? read : rendering, rect)),
      );
      return { ...job, regions, inputKey: read === rendering ? rendering.key : `${rendering.key} reading ${read.key}` };
    };
    return made(await keyOf(rendering, type, params), cut, options);
  };

  const after: Workshop['after'] = async (before, type, params, result, id) => {
    const rendering = await reshaped(before, type, params, new AbortController().signal);
    const key = await keyOf(rendering, type, params);
    const then = params.view
      ? {
          ...before,
          key,
          reshape: undefined,
          patches: [...before.patches, ...(await rendering.source.laidBack(result.patches))],
        }
      : {
          ...rendering,
          key,
          patches: [...rendering.patches, ...result.patches],
          reshape: rendering === before ? undefined : rendering.reshape,
        };
    if (id === undefined) return then;
    const { source: left, patches } = then;
    return { ...then, earlier: new Map([...then.earlier, [id, { key, source: left, patches, through: [] }]]) };
  };

  return {
    origin,
    seen,
    reshaped,
    readFrom,
    apply,
    after,
    async replay(steps, { signal, onStep }) {
      const renderings = [origin];
      for (const [index, step] of steps.entries()) {
        const rendering = renderings[index]!;
        onStep?.(index, 0);
        if (!step.enabled) {
          renderings.push(rendering.reshape ? { ...rendering, reshape: undefined } : rendering);
          continue;
        }
        try {
          const onProgress: OnProgress = ({ share }) => onStep?.(index, share);
          const result = await apply(rendering, step.type, step.params, { signal, onProgress });
          renderings.push(await after(rendering, step.type, step.params, result, step.id));
        } catch (error) {
          signal.throwIfAborted();
          return { renderings, failed: { id: step.id, index, message: serialiseError(error).message } };
        }
      }
      return { renderings };
    },
    async makeTakes(rendering, type, params, round, { signal, count, onTake, onProgress }) {
      const kind = kindOf(type);
      const { photo } = (await reshaped(rendering, type, params, signal)).source;
      const isComputed = !kind.layer && kind.regions(params, photo, rendering.source.photo).length > 0;
      const specs = planTakes(kind, round).slice(0, isComputed ? count : 1);
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
        const result = await apply(rendering, type, { ...params, take: spec }, options);
        shares[k] = 1;
        takes.push({ spec, result });
        onTake?.({ spec, result });
      };
      // The first as soon as can be, by all threads together; then as many side by side as there are lanes.
      if (specs.length > 0) await make(0, 0, true);
      const lanes = Math.max(1, Math.min(runner.width, specs.length - 1));
      const queue = inTurn(specs, kind.readTogether);
      const runLane = async (lane: number): Promise<void> => {
        for (let group = queue.shift(); group; group = queue.shift()) {
          for (const k of group) await make(k, lane, lanes === 1);
        }
      };
      await Promise.all(Array.from({ length: lanes }, (_, lane) => runLane(lane)));
      return takes;
    },
    async glance(rendering, type, params, signal) {
      if (lookedAt?.key !== rendering.key)
        lookedAt = { key: rendering.key, look: rendering.source.look(rendering.patches) };
      const look = await lookedAt.look;
      const job = {
        kind: 'glance' as const,
        type,
        params,
        photo: rendering.source.photo,
        look: { ...look, data: look.data.slice() },
      };
      // Beside the lane in which takes begin, so as not to wait behind them.
      const { image } = await runner.run(job, 1, signal);
      return image;
    },
    async cutOut(rendering, subject, signal) {
      const { photo } = rendering.source;
      const region = await cropRendering(rendering, subjectRegion(subject.mark, photo));
      return runner.run({ kind: 'cutOut', subject, photo, region, inputKey: rendering.key }, 0, signal);
    },
  };
}

/** A failed step as an error for who wanted the finished picture. */
export function stepFailed({ index, message }: FailedStep, steps: readonly Step[]): FingoError {
  const { type, params } = steps[index]!;
  const summary = kindOf(type).summarize(params);
  return new FingoError('step-failed', `Step ${index + 1} (${summary}) can’t be made: ${message}`);
}

/** The takes after the first in their order, in groups that one lane makes one after the other. */
function inTurn(specs: readonly TakeSpec[], readTogether: readonly string[] = []): number[][] {
  const later = specs.map((_, k) => k).slice(1);
  const [together, apart] = [true, false].map((are) =>
    later.filter((k) => readTogether.includes(specs[k]!.strategy) === are),
  ) as [number[], number[]];
  return [together, ...apart.map((k) => [k])].filter(({ length }) => length > 0);
}
