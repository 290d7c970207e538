import type { Rect } from '../core/image/rect.ts';
import type { Task } from '../core/progress.ts';
import type { Computation, StepResult } from './computation.ts';

/** What kinds of steps have in common that carry the picture over and rebuild nothing. */
export const carriedOnly = {
  strategies: ['as it is'],
  regions: (): Rect[] => [],
};

/** Their computation. */
export const nothingComputed: Computation = {
  *apply(): Task<StepResult> {
    yield { stage: 'Ready', share: 1 };
    return { patches: [], rank: 0, timings: {} };
  },
};
