import type { Task } from '../core/progress.ts';
import type { Operation, StepResult } from './operation.ts';

/** What kinds of steps have in common that carry the picture over and rebuild nothing. */
export const carriedOnly: Pick<Operation, 'strategies' | 'regions' | 'apply'> = {
  strategies: ['as it is'],
  regions: () => [],
  *apply(): Task<StepResult> {
    yield { stage: 'Ready', share: 1 };
    return { patches: [], rank: 0, timings: {} };
  },
};
