import { AHEAD, type Direction } from './looking.ts';

/** Where one looks, with the ways of hearing of it; outside the store, because it changes with every move of the hand. */
export interface LookControl {
  get(): Direction;
  /** As `get`, but a little behind while the hand moves: for what tells it in words and numbers. */
  settled(): Direction;
  set(next: Direction): void;
  subscribe(listener: () => void): () => void;
  subscribeSettled(listener: () => void): () => void;
}

/** What tells the direction follows at most so often. */
const SETTLE_MS = 150;

export function createLookControl(): LookControl {
  let direction = AHEAD;
  let settled = AHEAD;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const listeners = new Set<() => void>();
  const patient = new Set<() => void>();
  const subscriber =
    (to: Set<() => void>) =>
    (listener: () => void): (() => void) => {
      to.add(listener);
      return () => to.delete(listener);
    };
  return {
    get: () => direction,
    settled: () => settled,
    set(next) {
      direction = next;
      listeners.forEach((listener) => listener());
      timer ??= setTimeout(() => {
        timer = undefined;
        settled = direction;
        patient.forEach((listener) => listener());
      }, SETTLE_MS);
    },
    subscribe: subscriber(listeners),
    subscribeSettled: subscriber(patient),
  };
}
