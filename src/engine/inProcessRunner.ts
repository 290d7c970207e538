import type { Kernels } from '../core/kernels/kernels.ts';
import { createMemo } from './memo.ts';
import { performJob } from './performJob.ts';
import { jobSchema, type Job, type JobResult, type OnProgress, type Runner } from './protocol.ts';

const MEMO_BYTES = 256 * 2 ** 20;

/** Does jobs one after the other in this thread, giving the event loop a turn now and then so that they can be cancelled. */
export function createInProcessRunner(kernels: Kernels): Runner {
  const memo = createMemo(MEMO_BYTES);
  let free: Promise<unknown> = Promise.resolve();
  return {
    width: 1,
    run<J extends Job>(job: J, _lane: number, signal: AbortSignal, onProgress?: OnProgress): Promise<JobResult<J>> {
      const result = free.then(() => {
        signal.throwIfAborted();
        return performJob(jobSchema.parse(job) as J, memo, kernels, { signal, ...(onProgress && { onProgress }) });
      });
      free = result.catch(() => undefined);
      return result;
    },
  };
}
