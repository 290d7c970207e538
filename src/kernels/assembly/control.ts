/**
 * The first page of the shared memory: what the threads agree on. The caller writes the arguments and the number of
 * bands, opens RUNNING, raises GENERATION and works itself; helpers wake, join while it is open, and take bands one by
 * one. Then the caller closes it and waits for those that have joined, not for those that are still waking.
 */
const NEXT: usize = 64;
const BANDS: usize = 68;
const FIRST: usize = 72;
const STRIDE: usize = 76;
const GENERATION: usize = 84;
/** How many helpers are at work; OPEN while more may join. */
const RUNNING: usize = 88;
/** How many helpers there are. */
const READY: usize = 92;
const KERNEL: usize = 100;
const ARGUMENTS: usize = 1024;

const OPEN: i32 = 1 << 30;

/** So often a thread looks whether it is its turn before it sleeps: waking it takes longer than most orders. */
const LOOKS: i32 = 200000;

@inline
export function argument(index: i32): i32 {
  return load<i32>(ARGUMENTS + 4 * (<usize>index));
}

@inline
export function pointer(index: i32): usize {
  return <usize>load<u32>(ARGUMENTS + 4 * (<usize>index));
}

/** A number in double precision, which takes the room of two arguments. */
@inline
export function floatArgument(index: i32): f64 {
  return load<f64>(ARGUMENTS + 4 * (<usize>index));
}

@inline
export function kernel(): i32 {
  return load<i32>(KERNEL);
}

/** The next band to do, or -1 when all are taken. */
@inline
export function takeBand(): i32 {
  const k = atomic.add<i32>(NEXT, 1);
  return k < load<i32>(BANDS) ? load<i32>(FIRST) + k * load<i32>(STRIDE) : -1;
}

export function register(): void {
  atomic.add<i32>(READY, 1);
}

export function generation(): i32 {
  return atomic.load<i32>(GENERATION);
}

/** Sleeps until the generation is another than `seen`. */
export function awaitGeneration(seen: i32): i32 {
  for (let k = 0; k < LOOKS; k++) {
    const now = atomic.load<i32>(GENERATION);
    if (now !== seen) return now;
  }
  while (atomic.load<i32>(GENERATION) === seen) atomic.wait<i32>(GENERATION, seen, -1);
  return atomic.load<i32>(GENERATION);
}

/** Whether a helper is in time to take part; it must leave again then. */
export function join(): bool {
  let running = atomic.load<i32>(RUNNING);
  while (running & OPEN) {
    const before = atomic.cmpxchg<i32>(RUNNING, running, running + 1);
    if (before === running) return true;
    running = before;
  }
  return false;
}

export function leave(): void {
  if (atomic.sub<i32>(RUNNING, 1) === 1) atomic.notify(RUNNING, 1);
}

/** Lets helpers join, and wakes them. */
export function callHelpers(): void {
  const ready = atomic.load<i32>(READY);
  if (ready === 0) return;
  atomic.store<i32>(RUNNING, OPEN);
  atomic.add<i32>(GENERATION, 1);
  atomic.notify(GENERATION, ready);
}

/** Lets no more helpers join; returns when those that have joined have found no more bands. */
export function awaitHelpers(): void {
  atomic.and<i32>(RUNNING, ~OPEN);
  for (let k = 0; k < LOOKS; k++) if (atomic.load<i32>(RUNNING) === 0) return;
  for (;;) {
    const running = atomic.load<i32>(RUNNING);
    if (running === 0) return;
    atomic.wait<i32>(RUNNING, running, -1);
  }
}
