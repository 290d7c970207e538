/** Tells how long the stages of a piece of work take. */
export interface StageClock {
  /** Counts the time since the last lap to this stage. */
  lap(name: string): void;
  /** Milliseconds by stage. */
  timings: Record<string, number>;
}

// The core is compiled without a browser's types; every place that it runs in has this clock.
declare const performance: { now(): number };

export function stageClock(): StageClock {
  const timings: Record<string, number> = {};
  let last = performance.now();
  return {
    lap(name) {
      const now = performance.now();
      timings[name] = (timings[name] ?? 0) + now - last;
      last = now;
    },
    timings,
  };
}
