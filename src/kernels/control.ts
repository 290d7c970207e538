/** Where the module looks for its orders, in bytes of the shared memory; see control.ts of the module. */
export const CONTROL = {
  next: 64,
  bands: 68,
  first: 72,
  stride: 76,
  ready: 92,
  failures: 96,
  kernel: 100,
  arguments: 1024,
} as const;

/** How far work is that one helper does beside the others. */
export const BESIDE = { begun: 0, done: 1, failed: 2 } as const;

/** From here on the shared memory holds arrays. */
export const ARENA_BASE = 65536;
