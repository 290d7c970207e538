import { patchDifference } from '../core/measures/patchDifference.ts';
import type { StepResult } from './computation.ts';
import type { StepKind } from './kind.ts';
import type { TakeSpec } from './rebuild/rebuildSchema.ts';

/** Mean absolute difference, in 8-bit levels over the changed area, from which on a person tells two takes apart. */
const MIN_DIFFERENCE = 1.5;
/** Below this two takes are the same but for rounding. */
const NO_DIFFERENCE = 0.25;
/** That many are offered even where they differ only in grain, as in a clear sky. */
const MIN_TAKES = 3;
export const MAX_TAKES = 6;

/** The takes of a round (0 = the first): each strategy once, every round from another seed. */
export const planTakes = ({ strategies }: Pick<StepKind, 'strategies'>, round: number): TakeSpec[] =>
  strategies.slice(0, MAX_TAKES).map((strategy) => ({ strategy, seed: round + 1 }));

export interface RankedTake {
  spec: TakeSpec;
  result: StepResult;
}

/** The takes best first; of two that hardly differ only the better one stays, unless fewer than three would. */
export function distinctTakes<Take extends RankedTake>(takes: readonly Take[]): Take[] {
  const ranked = [...takes].sort((a, b) => a.result.rank - b.result.rank);
  const kept = thinned(ranked, MIN_DIFFERENCE);
  return kept.length >= MIN_TAKES ? kept : thinned(ranked, NO_DIFFERENCE).slice(0, MIN_TAKES);
}

function thinned<Take extends RankedTake>(ranked: readonly Take[], difference: number): Take[] {
  const kept: Take[] = [];
  for (const take of ranked) {
    const isNew = kept.every((other) => patchDifference(other.result.patches, take.result.patches) >= difference);
    if (isNew) kept.push(take);
  }
  return kept;
}
