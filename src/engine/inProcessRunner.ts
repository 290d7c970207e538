import type { Kernels } from '../core/kernels/kernels.ts';
import { createMemo } from './memo.ts';
import { performJob } from './performJob.ts';
import { jobSchema, type Job, type JobResult, type OnProgress, type Runner } from './protocol.ts';

const MEMO_BYTES = 256 * 2 ** 20;

/** Does jobs one after the other in this thread, giving the event loop a turn between reports so that they can be cancelled. */
export function createInProcessRunner(kernels: Kernels): Runner {
  const memo = createMemo(MEMO_BYTES);
  const perform = async <J extends Job>(
    job: J,
    signal: AbortSignal,
    onProgress?: OnProgress,
  ): Promise<JobResult<J>> => {
    const task = performJob(jobSchema.parse(job) as J, memo, kernels);
    for (;;) {
      signal.throwIfAborted();
      const step = task.next();
      if (step.done) return step.value;
      onProgress?.(step.value);
      await new Promise((resolve) => setTimeout(resolve, 0));
    }
  };
  let free: Promise<unknown> = Promise.resolve();
  return {
    width: 1,
    run<J extends Job>(job: J, _lane: number, signal: AbortSignal, onProgress?: OnProgress): Promise<JobResult<J>> {
      const result = free.then(() => perform(job, signal, onProgress));
      free = result.catch(() => undefined);
      return result;
    },
  };
}
