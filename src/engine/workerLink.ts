import { expose, proxy, transferHandlers, wrap, type Endpoint, type Remote, type TransferHandler } from 'comlink';
import { FingoError, serialiseError, type SerialisedError } from '../core/errors.ts';

// How the page and its workers talk: a worker's methods are written once, in the worker. What they throw keeps its code
// on the way, callbacks are handed over by themselves, and a worker that is lost rejects whatever waits for it.

/** A worker's methods as they are called from outside. */
export type Client<Api> = {
  readonly [Name in keyof Api]: Api[Name] extends (...args: infer Args) => infer Result
    ? (...args: Args) => Promise<Awaited<Result>>
    : never;
};

export interface WorkerLink<Api> {
  api: Client<Api>;
  /** Aborts when the worker is lost, with the error that says so as its reason. */
  lost: AbortSignal;
  /** Ends the worker; what waits for it is broken off. */
  close(): void;
}

export interface Patience {
  /** How often a worker that is asked for something must show that it lives. */
  pingMs: number;
  /** It is given up after so many in a row that it did not answer. */
  misses: number;
}

/** A worker may be deaf for minutes while it decodes or searches a large picture on a slow machine. */
const PATIENCE: Patience = { pingMs: 10_000, misses: 18 };

/** What every served worker answers beside its own methods. */
interface Alive {
  ping(): void;
}

/** Serves a worker's methods, in the worker. */
export const serve = (api: object, endpoint?: Endpoint): void =>
  expose({ ...api, ping: () => undefined } satisfies Alive, endpoint);

/**
 * Starts a worker and gives its methods. It counts as lost (`worker-lost`) when it can't be started, fails by itself, or
 * no longer answers while something waits for it.
 */
export function openLink<Api extends object>(
  makeWorker: () => Worker,
  { pingMs, misses }: Patience = PATIENCE,
): WorkerLink<Api> {
  const lost = new AbortController();
  const closed = new AbortController();
  let worker: Worker | undefined;
  let remote: Remote<Record<string, (...args: unknown[]) => unknown>> | undefined;
  let waiting = 0;
  let missed = 0;
  let watch: ReturnType<typeof setInterval> | undefined;

  const close = (): void => {
    clearInterval(watch);
    worker?.terminate();
    closed.abort(new DOMException('Cancelled', 'AbortError'));
  };
  const lose = (): void => {
    if (closed.signal.aborted || lost.signal.aborted) return;
    lost.abort(workerLost());
    clearInterval(watch);
    worker?.terminate();
  };
  try {
    worker = makeWorker();
    worker.addEventListener('error', lose);
    worker.addEventListener('messageerror', lose);
    remote = wrap(worker);
  } catch {
    lose();
  }

  /** Counts ticks, not time: after a machine has slept, a worker gets its turn before it is given up. */
  const lookAfter = (): void => {
    watch ??= setInterval(() => {
      if (++missed > misses) lose();
      else void remote!.ping!().then(() => (missed = 0));
    }, pingMs);
  };

  const call = async (name: string, args: readonly unknown[]): Promise<unknown> => {
    lost.signal.throwIfAborted();
    closed.signal.throwIfAborted();
    waiting++;
    lookAfter();
    const over = new AbortController();
    const ended = new Promise<never>((_, reject) => {
      for (const { signal } of [lost, closed]) {
        signal.addEventListener('abort', () => reject(signal.reason), { signal: over.signal });
      }
    });
    try {
      const handed = args.map((arg) => (typeof arg === 'function' ? proxy(arg) : arg));
      return await Promise.race([remote![name]!(...handed), ended]);
    } finally {
      over.abort();
      if (--waiting === 0) {
        clearInterval(watch);
        watch = undefined;
        missed = 0;
      }
    }
  };

  const api = new Proxy({} as Client<Api>, {
    // Anything that waits for a promise asks for "then".
    get: (_, name) => (name === 'then' ? undefined : (...args: unknown[]) => call(String(name), args)),
  });
  return { api, lost: lost.signal, close };
}

const workerLost = (): FingoError =>
  new FingoError(
    'worker-lost',
    'The browser ended the computation, perhaps for lack of memory; close other tabs and try again. Your steps are kept.',
  );

type Thrown = { kind: 'cancelled' } | { kind: 'error'; error: SerialisedError };

const thrown = transferHandlers.get('throw') as TransferHandler<{ value: unknown }, Thrown>;
transferHandlers.set('throw', {
  canHandle: thrown.canHandle,
  serialize: ({ value }) =>
    value instanceof DOMException && value.name === 'AbortError'
      ? [{ kind: 'cancelled' }, []]
      : [{ kind: 'error', error: serialiseError(value) }, []],
  deserialize(what) {
    if (what.kind === 'cancelled') throw new DOMException('Cancelled', 'AbortError');
    throw new FingoError(what.error.code, what.error.message);
  },
} satisfies TransferHandler<{ value: unknown }, Thrown>);

/** A picture that a worker holds: only its name crosses. */
interface HeldPicture {
  source: { key: string };
}
const isHeld = (value: unknown): value is HeldPicture =>
  typeof value === 'object' && value !== null && 'source' in value && 'patches' in value;
transferHandlers.set('picture', {
  canHandle: isHeld,
  serialize: (picture) => {
    const { source, patches } = picture as HeldPicture & { patches: unknown };
    return [{ source: { key: source.key }, patches }, []];
  },
  deserialize: (picture) => picture,
} satisfies TransferHandler<HeldPicture, HeldPicture>);
