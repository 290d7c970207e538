/**
 * The first page of the shared memory: what the threads agree on. The caller writes the arguments and the number of
 * bands, raises GENERATION and works itself; helpers wake, take bands one by one, and report back through RUNNING.
 */
const NEXT: usize = 64;
const BANDS: usize = 68;
const FIRST: usize = 72;
const STRIDE: usize = 76;
const GENERATION: usize = 84;
const RUNNING: usize = 88;
const READY: usize = 92;
const KERNEL: usize = 100;
/** For each helper the generation from which on it takes part; 0 = the caller has not seen it yet. */
const ADOPTED: usize = 128;
const ARGUMENTS: usize = 1024;

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

/** A helper's place among those that are ready; its first generation must be read before. */
export function register(): i32 {
  return atomic.add<i32>(READY, 1);
}

export function generation(): i32 {
  return atomic.load<i32>(GENERATION);
}

/** Sleeps until the generation is another than `seen`. */
export function awaitGeneration(seen: i32): i32 {
  while (atomic.load<i32>(GENERATION) === seen) atomic.wait<i32>(GENERATION, seen, -1);
  return atomic.load<i32>(GENERATION);
}

export function takesPart(place: i32, seen: i32): bool {
  const since = atomic.load<i32>(ADOPTED + 4 * (<usize>place));
  return since !== 0 && since <= seen;
}

export function reportDone(): void {
  if (atomic.sub<i32>(RUNNING, 1) === 1) atomic.notify(RUNNING, 1);
}

/** Wakes the helpers that are ready. */
export function wakeHelpers(): void {
  const ready = atomic.load<i32>(READY);
  const next = load<i32>(GENERATION) + 1;
  for (let k = 0; k < ready; k++) {
    const since = ADOPTED + 4 * (<usize>k);
    if (load<i32>(since) === 0) atomic.store<i32>(since, next);
  }
  atomic.store<i32>(RUNNING, ready);
  atomic.store<i32>(GENERATION, next);
  if (ready > 0) atomic.notify(GENERATION, ready);
}

/** Returns when every helper that was woken has found no more bands. */
export function awaitHelpers(): void {
  for (;;) {
    const running = atomic.load<i32>(RUNNING);
    if (running === 0) return;
    atomic.wait<i32>(RUNNING, running, -1);
  }
}
