import { expose, transfer } from 'comlink';
import { serialiseError, type SerialisedError } from '../core/errors.ts';
import type { StepResult } from '../operations/operation.ts';
import { startBrowserHelper } from '../kernels/browser/startHelper.ts';
import { openKernels } from '../kernels/openKernels.ts';
import { createMemo } from '../engine/memo.ts';
import { performJob } from '../engine/performJob.ts';
import { warmUp } from '../engine/warmUp.ts';
import { buffersOf, jobSchema, type Job, type JobResult, type OnProgress } from '../engine/protocol.ts';

const MEMO_BYTES = 128 * 2 ** 20;
const MOST_HELPERS = 3;
/** How long the worker may stay deaf to a cancel between two reports. */
const TURN_MS = 30;

export type Outcome =
  { status: 'done'; result: JobResult<Job> } | { status: 'cancelled' } | { status: 'failed'; error: SerialisedError };

const memo = createMemo(MEMO_BYTES);
const kernels = openKernels(Math.min(MOST_HELPERS, navigator.hardwareConcurrency - 1), startBrowserHelper);
let cancelled = false;
let isWarmingUp = false;

const api = {
  async run(job: Job, onProgress: OnProgress): Promise<Outcome> {
    cancelled = false;
    isWarmingUp = false;
    try {
      const checked = jobSchema.parse(job);
      kernels.useHelpers(checked.kind === 'step' && checked.alone);
      const task = performJob(checked, memo, kernels);
      let lastTurn = performance.now();
      for (;;) {
        const step = task.next();
        if (step.done) {
          const result = withOwnPixels(step.value);
          return transfer({ status: 'done', result }, buffersOf(result));
        }
        onProgress(step.value);
        if (performance.now() - lastTurn > TURN_MS) {
          await nextTurn();
          lastTurn = performance.now();
          if (cancelled) return { status: 'cancelled' };
        }
      }
    } catch (error) {
      return { status: 'failed', error: serialiseError(error) };
    }
  },
  cancel(): void {
    cancelled = true;
  },
  /** Has the code compiled that makes takes; given up when there is a job. */
  async warmUp(withHelpers: boolean): Promise<void> {
    isWarmingUp = true;
    kernels.useHelpers(withHelpers);
    const task = warmUp(kernels);
    while (isWarmingUp && !task.next().done) await nextTurn();
  },
  endWarmUp(): void {
    isWarmingUp = false;
  },
};

/** Lets messages in. */
const nextTurn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/** The memo may hold the same arrays, which a transfer would empty. */
function withOwnPixels(result: JobResult<Job>): JobResult<Job> {
  const own = <P extends StepResult['patches'][number]>(patch: P): P => ({
    ...patch,
    image: { ...patch.image, data: patch.image.data.slice() },
  });
  if ('warps' in result) return result;
  return 'patches' in result ? { ...result, patches: result.patches.map(own) } : own(result);
}

export type ComputeApi = typeof api;
expose(api);
