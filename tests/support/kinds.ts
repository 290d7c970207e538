import type { Computation } from '../../src/operations/computation.ts';
import type { StepKind } from '../../src/operations/kind.ts';
import { computationOf, kindOf, KINDS } from '../../src/operations/kinds.ts';

const computations = new Map<string, Computation>();
// One after the other: the test runner's module loader takes no two at once.
for (const { type } of KINDS) computations.set(type, await computationOf(type));

/** A kind of step with its computation. */
export const wholeKind = (type: string): StepKind & Computation => ({ ...kindOf(type), ...computations.get(type)! });
