import { patchDifference } from '../core/measures/patchDifference.ts';
import type { Operation, StepResult } from './operation.ts';
import type { TakeSpec } from './rebuild/rebuildSchema.ts';

/** Mean absolute difference, in 8-bit levels over the changed area, from which on a person tells two takes apart. */
const SMALLEST_DIFFERENCE = 1.5;
export const MOST_TAKES = 6;

/** The takes of a round (0 = the first): each strategy once, every round from another seed. */
export const planTakes = (operation: Operation, round: number): TakeSpec[] =>
  operation.strategies.slice(0, MOST_TAKES).map((strategy) => ({ strategy, seed: round + 1 }));

export interface RankedTake {
  spec: TakeSpec;
  result: StepResult;
}

/** The takes best first; of two that hardly differ only the better one stays. */
export function distinctTakes<Take extends RankedTake>(takes: readonly Take[]): Take[] {
  const ranked = [...takes].sort((a, b) => a.result.rank - b.result.rank);
  const kept: Take[] = [];
  for (const take of ranked) {
    const isNew = kept.every(
      (other) => patchDifference(other.result.patches, take.result.patches) >= SMALLEST_DIFFERENCE,
    );
    if (isNew) kept.push(take);
  }
  return kept;
}
