import { FingoError } from '../core/errors.ts';
import { openLink, serve, type Patience } from './workerLink.ts';

interface Api {
  double(of: number, report?: (share: number) => void): number;
  refuse(): void;
  stop(): Promise<void>;
  hang(): Promise<number>;
  keyOf(picture: { source: { key: string }; patches: unknown[] }): string[];
}

const API: Api = {
  double: (of, report) => {
    report?.(0.5);
    return 2 * of;
  },
  refuse() {
    throw new FingoError('no-donors', 'Mark less.');
  },
  stop: () => Promise.reject(new DOMException('Cancelled', 'AbortError')),
  hang: () => new Promise(() => undefined),
  keyOf: ({ source }) => [source.key, ...Object.keys(source)],
};

const channels: MessageChannel[] = [];
let ended = 0;
beforeEach(() => (ended = 0));
afterEach(() => {
  for (const { port1, port2 } of channels.splice(0)) {
    port1.close();
    port2.close();
  }
});

/** A worker at the other end of a channel, which may be deaf. */
function fakeWorker(isDeaf = false): Worker {
  const channel = new MessageChannel();
  channels.push(channel);
  if (!isDeaf) serve(API, channel.port2 as unknown as Parameters<typeof serve>[1]);
  return Object.assign(channel.port1, { terminate: () => ended++ }) as unknown as Worker;
}

const open = (isDeaf?: boolean, patience?: Patience) => {
  const worker = fakeWorker(isDeaf);
  return { worker, link: openLink<Api>(() => worker, patience) };
};
const QUICK: Patience = { pingMs: 10, misses: 3 };

test('methods answer, callbacks are heard, and what they throw keeps its code', async () => {
  const { link } = open();
  const heard: number[] = [];
  expect(await link.api.double(21, (share) => heard.push(share))).toBe(42);
  expect(heard).toEqual([0.5]);
  const refusal = await link.api.refuse().catch((reason: unknown) => reason);
  expect(refusal).toBeInstanceOf(FingoError);
  expect(refusal).toMatchObject({ code: 'no-donors', message: 'Mark less.' });
  await expect(link.api.stop()).rejects.toMatchObject({ name: 'AbortError' });
});

test('of a picture that a worker holds only the name is sent, whatever else it can do on this side', async () => {
  const { link } = open();
  const source = { key: 'quay', crop: () => undefined };
  expect(await link.api.keyOf({ source, patches: [] })).toEqual(['quay', 'key']);
});

test('a worker that fails rejects all that waits for it, and what is asked later', async () => {
  const { worker, link } = open();
  const waiting = [link.api.hang(), link.api.hang()];
  worker.dispatchEvent(new Event('error'));
  for (const each of waiting) await expect(each).rejects.toMatchObject({ code: 'worker-lost' });
  expect(link.lost.aborted).toBe(true);
  await expect(link.api.double(1)).rejects.toMatchObject({ code: 'worker-lost' });
});

test('a worker that can’t be started is a lost one', async () => {
  const link = openLink<Api>(() => {
    throw new Error('refused by policy');
  });
  await expect(link.api.double(1)).rejects.toMatchObject({ code: 'worker-lost' });
});

test('a worker that no longer answers is given up; one that is only busy with something is not', async () => {
  const deaf = open(true, QUICK).link;
  await expect(deaf.api.double(1)).rejects.toMatchObject({ code: 'worker-lost' });
  expect(ended).toBe(1);
  const busy = open(false, QUICK).link;
  void busy.api.hang().catch(() => undefined);
  await new Promise((resolve) => setTimeout(resolve, 150));
  expect(busy.lost.aborted).toBe(false);
  expect(await busy.api.double(2)).toBe(4);
  busy.close();
});

test('closing breaks off what waits, and is no loss', async () => {
  const { link } = open();
  const waiting = link.api.hang();
  link.close();
  await expect(waiting).rejects.toMatchObject({ name: 'AbortError' });
  expect(link.lost.aborted).toBe(false);
  expect(ended).toBe(1);
});
