import type { StepResult } from '../operations/computation.ts';
import type { ComputeApi } from '../workers/compute.worker.ts';
import type { Job, OnProgress } from './protocol.ts';
import { serve } from './workerLink.ts';
import { createWorkerPool } from './workerPool.ts';

type Run = (job: Job, onProgress: OnProgress) => Promise<StepResult>;

const channels: MessageChannel[] = [];
let started = 0;
let ended = 0;

/** A worker whose work is done by `run` at the other end of a channel. */
function fakeWorker(run: Run, warmth: string[] = [], cancel = (): void => undefined): () => Worker {
  return () => {
    started++;
    const channel = new MessageChannel();
    channels.push(channel);
    const api: ComputeApi = {
      run,
      cancel,
      warmUp: (withHelpers) => Promise.resolve(void warmth.push(withHelpers ? 'all threads' : 'alone')),
      endWarmUp: () => void warmth.push('ended'),
    };
    serve(api, channel.port2 as unknown as Parameters<typeof serve>[1]);
    return Object.assign(channel.port1, { terminate: () => ended++ }) as unknown as Worker;
  };
}

beforeEach(() => {
  started = 0;
  ended = 0;
});
afterEach(() => {
  for (const { port1, port2 } of channels.splice(0)) {
    port1.close();
    port2.close();
  }
});

function job(name: string): Job {
  const rect = { x: 0, y: 0, width: 1, height: 1 };
  const region = { rect, image: { width: 1, height: 1, data: new Uint8ClampedArray(4) } };
  return {
    kind: 'step',
    type: name,
    params: {},
    photo: { width: 1, height: 1 },
    regions: [region],
    inputKey: 'k',
    alone: true,
  };
}
const result = { patches: [], rank: 1, timings: {} };
const never = new AbortController().signal;

test('a job’s result and its progress arrive', async () => {
  const pool = createWorkerPool(
    1,
    fakeWorker((_, onProgress) => {
      onProgress({ stage: 'Matching', share: 0.5 });
      return Promise.resolve(result);
    }),
  );
  const shares: number[] = [];
  expect(await pool.run(job('clear'), 0, never, ({ share }) => shares.push(share))).toEqual(result);
  expect(shares).toEqual([0.5]);
});

test('a job that ends leaves no ear behind: cancelling its round later cancels no other job of the lane', async () => {
  const cancels: string[] = [];
  let release = (_: StepResult): void => undefined;
  const pool = createWorkerPool(
    1,
    fakeWorker(
      (work) =>
        (work as Extract<Job, { kind: 'step' }>).type === 'first'
          ? Promise.resolve(result)
          : new Promise((resolve) => (release = resolve)),
      [],
      () => void cancels.push('cancelled'),
    ),
  );
  const round = new AbortController();
  await pool.run(job('first'), 0, round.signal);
  const next = pool.run(job('next'), 0, never);
  await new Promise((resolve) => setTimeout(resolve, 20));
  round.abort();
  await new Promise((resolve) => setTimeout(resolve, 100));
  release(result);
  expect(await next).toEqual(result);
  expect([cancels.length, started, ended]).toEqual([0, 1, 0]);
});

test('a worker that is lost fails its job with a sentence, and the lane’s next job gets a fresh one', async () => {
  const workers: Worker[] = [];
  let calls = 0;
  const make = fakeWorker(() => (calls++ === 0 ? new Promise(() => undefined) : Promise.resolve(result)));
  const pool = createWorkerPool(1, () => {
    const worker = make();
    workers.push(worker);
    return worker;
  });
  const work = pool.run(job('clear'), 0, never);
  await new Promise((resolve) => setTimeout(resolve, 20));
  workers[0]!.dispatchEvent(new Event('error'));
  await expect(work).rejects.toMatchObject({ code: 'worker-lost' });
  expect(await pool.run(job('clear'), 0, never)).toEqual(result);
});

test('jobs of one lane run one after the other, lanes side by side', async () => {
  const log: string[] = [];
  const pool = createWorkerPool(
    2,
    fakeWorker(async (work) => {
      const name = (work as Extract<Job, { kind: 'step' }>).type;
      log.push(`${name} begins`);
      await new Promise((resolve) => setTimeout(resolve, 30));
      log.push(`${name} ends`);
      return result;
    }),
  );
  await Promise.all([pool.run(job('a'), 0, never), pool.run(job('b'), 0, never), pool.run(job('c'), 1, never)]);
  expect(log.indexOf('b begins')).toBeGreaterThan(log.indexOf('a ends'));
  expect(log.indexOf('c begins')).toBeLessThan(log.indexOf('a ends'));
});

test('a cancel is answered at once, and a worker that does not stop is replaced by a fresh one', async () => {
  let calls = 0;
  const hanging = new Promise<StepResult>(() => undefined);
  const pool = createWorkerPool(
    1,
    fakeWorker(() => (calls++ === 0 ? hanging : Promise.resolve(result))),
  );
  const controller = new AbortController();
  const work = pool.run(job('clear'), 0, controller.signal);
  await new Promise((resolve) => setTimeout(resolve, 20));
  controller.abort();
  await expect(work).rejects.toMatchObject({ name: 'AbortError' });
  expect(ended).toBe(0);
  expect(await pool.run(job('clear'), 0, never)).toEqual(result);
  expect([started, ended]).toEqual([2, 1]);
});

test('a job cancelled while it waits is never begun', async () => {
  const begun: string[] = [];
  const pool = createWorkerPool(
    1,
    fakeWorker(async (work) => {
      begun.push((work as Extract<Job, { kind: 'step' }>).type);
      await new Promise((resolve) => setTimeout(resolve, 20));
      return result;
    }),
  );
  const controller = new AbortController();
  const first = pool.run(job('first'), 0, never);
  const second = pool.run(job('second'), 0, controller.signal);
  controller.abort();
  await expect(second).rejects.toMatchObject({ name: 'AbortError' });
  await first;
  await pool.run(job('third'), 0, never);
  expect(begun).toEqual(['first', 'third']);
});

test('workers warm up, the first lane’s with all threads, until there is a job, and not after one', async () => {
  const warmth: string[] = [];
  const pool = createWorkerPool(
    2,
    fakeWorker(() => Promise.resolve(result), warmth),
  );
  pool.warmUp();
  await pool.run(job('first'), 0, never);
  // Lanes have no order among themselves.
  expect(warmth.sort()).toEqual(['all threads', 'alone', 'ended', 'ended']);
  pool.warmUp();
  await pool.run(job('second'), 1, never);
  expect(warmth).toHaveLength(4);
});
