import { proxy, transfer, wrap, type Remote } from 'comlink';
import { FingoError } from '../core/errors.ts';
import type { ComputeApi, Outcome } from '../workers/compute.worker.ts';
import { buffersOf, type Job, type JobResult, type OnProgress, type Runner } from './protocol.ts';

/** A worker that has not stopped by itself this long after a cancel is ended and replaced. */
const PATIENCE_MS = 60;

interface Lane {
  worker: Worker;
  api: Remote<ComputeApi>;
  /** Settles when the lane is free. */
  free: Promise<unknown>;
}

export interface WorkerPool extends Runner {
  /** Has the workers prepare for their first takes, until there is something to do; of no effect after that. */
  warmUp(): void;
  close(): void;
}

/** Does jobs in `width` workers, one at a time in each. Cancelling answers at once, whatever the worker is doing. */
export function createWorkerPool(width: number, makeWorker: () => Worker): WorkerPool {
  const open = (): Lane => {
    const worker = makeWorker();
    return { worker, api: wrap<ComputeApi>(worker), free: Promise.resolve() };
  };
  const lanes = Array.from({ length: width }, open);
  let hadJobs = false;

  const runIn = async <J extends Job>(lane: Lane, job: J, signal: AbortSignal, onProgress?: OnProgress) => {
    signal.throwIfAborted();
    const lost = new Promise<Outcome>((_, reject) => {
      lane.worker.onerror = () =>
        reject(
          new FingoError('worker-lost', 'The computation broke off, perhaps for lack of memory; try a smaller mark.'),
        );
    });
    let settled = false;
    const work = lane.api
      .run(
        transfer(job, buffersOf(job)),
        proxy((progress) => {
          if (!signal.aborted) onProgress?.(progress);
        }),
      )
      .finally(() => (settled = true));
    const aborted = new Promise<Outcome>((resolve) => {
      signal.addEventListener('abort', () => {
        void lane.api.cancel();
        setTimeout(() => {
          if (!settled) replace(lane);
          resolve({ status: 'cancelled' });
        }, PATIENCE_MS);
      });
    });
    const outcome = await Promise.race([work, aborted, lost]);
    signal.throwIfAborted();
    if (outcome.status === 'failed') throw new FingoError(outcome.error.code, outcome.error.message);
    if (outcome.status === 'cancelled') throw new DOMException('Cancelled', 'AbortError');
    return outcome.result as JobResult<J>;
  };

  const replace = (lane: Lane): void => {
    lane.worker.terminate();
    Object.assign(lane, open());
  };

  return {
    width,
    run(job, laneIndex, signal, onProgress) {
      // All processors are wanted now.
      if (!hadJobs) lanes.forEach(({ api }) => void api.endWarmUp());
      hadJobs = true;
      const lane = lanes[laneIndex % width]!;
      const result = lane.free.then(() => runIn(lane, job, signal, onProgress));
      lane.free = result.catch(() => undefined);
      // The caller hears of a cancel at once, even while its job still waits or winds down.
      const aborted = new Promise<never>((_, reject) => {
        signal.addEventListener('abort', () => reject(new DOMException('Cancelled', 'AbortError')));
      });
      return Promise.race([result, aborted]);
    },
    warmUp() {
      if (hadJobs) return;
      // The first lane makes the first take, by all threads.
      // One that fails leaves its worker cold, which is nothing to tell.
      lanes.forEach(({ api }, index) => void api.warmUp(index === 0).catch(() => undefined));
    },
    close: () => lanes.forEach((lane) => lane.worker.terminate()),
  };
}
