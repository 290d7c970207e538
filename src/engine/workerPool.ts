import { transfer } from 'comlink';
import type { ComputeApi } from '../workers/compute.worker.ts';
import { buffersOf, type Job, type JobResult, type OnProgress, type Runner } from './protocol.ts';
import { openLink, type WorkerLink } from './workerLink.ts';

/** A worker that has not stopped by itself this long after a cancel is ended and replaced. */
const PATIENCE_MS = 60;

interface Lane {
  link: WorkerLink<ComputeApi>;
  /** Settles when the lane is free. */
  free: Promise<unknown>;
}

export interface WorkerPool extends Runner {
  /** Has the workers prepare for their first takes, until there is something to do; of no effect after that. */
  warmUp(): void;
  close(): void;
}

/**
 * Does jobs in `width` workers, one at a time in each. Cancelling answers at once, whatever the worker is doing; a worker
 * that was lost is replaced before the next job.
 */
export function createWorkerPool(width: number, makeWorker: () => Worker): WorkerPool {
  const open = (): Lane => ({ link: openLink<ComputeApi>(makeWorker), free: Promise.resolve() });
  const lanes = Array.from({ length: width }, open);
  let hadJobs = false;

  const replace = (lane: Lane): void => {
    lane.link.close();
    lane.link = openLink<ComputeApi>(makeWorker);
  };

  const runIn = async <J extends Job>(
    lane: Lane,
    job: J,
    signal: AbortSignal,
    onProgress?: OnProgress,
  ): Promise<JobResult<J>> => {
    signal.throwIfAborted();
    if (lane.link.lost.aborted) replace(lane);
    const { link } = lane;
    const over = new AbortController();
    const work = link.api.run(transfer(job, buffersOf(job)), (progress) => {
      if (!signal.aborted) onProgress?.(progress);
    });
    const stop = (): void => {
      void link.api.cancel().catch(() => undefined);
      const timer = setTimeout(() => replace(lane), PATIENCE_MS);
      over.signal.addEventListener('abort', () => clearTimeout(timer));
    };
    signal.addEventListener('abort', stop, { signal: over.signal });
    try {
      const result = await work;
      signal.throwIfAborted();
      return result as JobResult<J>;
    } finally {
      over.abort();
    }
  };

  return {
    width,
    async run(job, laneIndex, signal, onProgress) {
      signal.throwIfAborted();
      // All processors are wanted now.
      if (!hadJobs) lanes.forEach(({ link }) => void link.api.endWarmUp().catch(() => undefined));
      hadJobs = true;
      const lane = lanes[laneIndex % width]!;
      const result = lane.free.then(() => runIn(lane, job, signal, onProgress));
      lane.free = result.catch(() => undefined);
      const over = new AbortController();
      // The caller hears of a cancel at once, even while its job still waits or winds down.
      const aborted = new Promise<never>((_, reject) => {
        const cancelled = (): void => reject(new DOMException('Cancelled', 'AbortError'));
        signal.addEventListener('abort', cancelled, { signal: over.signal });
      });
      try {
        return await Promise.race([result, aborted]);
      } finally {
        over.abort();
      }
    },
    warmUp() {
      if (hadJobs) return;
      // The first lane makes the first take, by all threads.
      // One that fails leaves its worker cold, which is nothing to tell.
      lanes.forEach(({ link }, index) => void link.api.warmUp(index === 0).catch(() => undefined));
    },
    close: () => lanes.forEach(({ link }) => link.close()),
  };
}
