import { patchDifference } from '../core/measures/patchDifference.ts';
import type { Operation, StepResult } from './operation.ts';
import type { TakeSpec } from './rebuild/rebuildSchema.ts';

/** Mean absolute difference, in 8-bit levels over the changed area, from which on a person tells two takes apart. */
const SMALLEST_DIFFERENCE = 1.5;
/** Below this two takes are the same but for rounding. */
const NO_DIFFERENCE = 0.25;
/** That many are offered even where they differ only in grain, as in a clear sky. */
const FEWEST_TAKES = 3;
export const MOST_TAKES = 6;

/** The takes of a round (0 = the first): each strategy once, every round from another seed. */
export const planTakes = (operation: Operation, round: number): TakeSpec[] =>
  operation.strategies.slice(0, MOST_TAKES).map((strategy) => ({ strategy, seed: round + 1 }));

export interface RankedTake {
  spec: TakeSpec;
  result: StepResult;
}

/** The takes best first; of two that hardly differ only the better one stays, unless fewer than three would. */
export function distinctTakes<Take extends RankedTake>(takes: readonly Take[]): Take[] {
  const ranked = [...takes].sort((a, b) => a.result.rank - b.result.rank);
  const kept = thinned(ranked, SMALLEST_DIFFERENCE);
  return kept.length >= FEWEST_TAKES ? kept : thinned(ranked, NO_DIFFERENCE).slice(0, FEWEST_TAKES);
}

function thinned<Take extends RankedTake>(ranked: readonly Take[], difference: number): Take[] {
  const kept: Take[] = [];
  for (const take of ranked) {
    const isNew = kept.every((other) => patchDifference(other.result.patches, take.result.patches) >= difference);
    if (isNew) kept.push(take);
  }
  return kept;
}
