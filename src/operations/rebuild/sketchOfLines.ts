import { REBUILD_STRATEGIES } from './rebuildRegion.ts';
import type { TakeSpec } from './rebuildSchema.ts';

/** The take in which nothing but the lines that run on is drawn: a look at them before the rest is made. */
export const SKETCH_OF_LINES: TakeSpec = { strategy: 'sketch of lines', seed: 1 };

/** Whether a kind of step rebuilds its place so that lines run on through it. */
export const drawsLines = ({ strategies }: { strategies: readonly string[] }): boolean =>
  strategies.includes(REBUILD_STRATEGIES[0]!);
