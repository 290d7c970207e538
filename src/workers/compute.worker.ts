import { transfer } from 'comlink';
import { createMemo } from '../engine/memo.ts';
import { nextTurn } from '../engine/perform.ts';
import { performJob } from '../engine/performJob.ts';
import { buffersOf, jobSchema, type Job, type JobResult, type OnProgress } from '../engine/protocol.ts';
import { warmUp } from '../engine/warmUp.ts';
import { serve } from '../engine/workerLink.ts';
import { openBrowserKernels } from '../kernels/browser/openBrowserKernels.ts';
import type { StepResult } from '../operations/computation.ts';

const MEMO_BYTES = 128 * 2 ** 20;

const memo = createMemo(MEMO_BYTES);
const kernels = openBrowserKernels();
let running = new AbortController();
let isWarmingUp = false;

const api = {
  /** Does a job, one at a time. Throws an AbortError once it is cancelled. */
  async run(job: Job, onProgress: OnProgress): Promise<JobResult<Job>> {
    running = new AbortController();
    isWarmingUp = false;
    const { signal } = running;
    const checked = jobSchema.parse(job);
    kernels.useHelpers(checked.kind === 'step' && checked.alone);
    const result = withOwnPixels(await performJob(checked, memo, kernels, { signal, onProgress }));
    return transfer(result, buffersOf(result));
  },
  cancel(): void {
    running.abort();
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
serve(api);
