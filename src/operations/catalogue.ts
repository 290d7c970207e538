import { FingoError } from '../core/errors.ts';
import { clearOperation } from './clear/index.ts';
import { borrowOperation } from './borrow/index.ts';
import { duplicateOperation } from './duplicate/index.ts';
import { lengthenOperation } from './lengthen/index.ts';
import { moveOperation } from './move/index.ts';
import type { Mark } from './marks/markSchema.ts';
import type { Operation } from './operation.ts';
import { reframeOperation } from './reframe/index.ts';
import { refineOperation } from './refine/index.ts';
import { enlargeOperation } from './enlarge/index.ts';
import { stretchOperation } from './stretch/index.ts';
import { strokeClearOperation } from './strokeClear/index.ts';
import { textOperation } from './text/index.ts';
import { turnSphereOperation } from './turnSphere/index.ts';
import type { SphereView } from '../core/sphere/sphereView.ts';
import type { TakeSpec } from './rebuild/rebuildSchema.ts';

/** What the parameters of every kind of step hold. */
export interface StepParams {
  /** What the step is about; kinds that change the frame have none. */
  mark?: Mark | undefined;
  /** The direct view into a sphere in which it is done. */
  view?: SphereView | undefined;
  take: TakeSpec;
}

/** Every kind of step, in the order in which they are offered. */
export const OPERATIONS: readonly Operation<StepParams>[] = [
  clearOperation,
  moveOperation,
  duplicateOperation,
  lengthenOperation,
  borrowOperation,
  strokeClearOperation,
  refineOperation,
  reframeOperation,
  stretchOperation,
  enlargeOperation,
  textOperation,
  turnSphereOperation,
];

/** The operation of this type. Throws `invalid-recipe` for an unknown one. */
export function operationOf(type: string): Operation<StepParams> {
  const operation = OPERATIONS.find((candidate) => candidate.type === type);
  if (!operation) {
    throw new FingoError('invalid-recipe', `This version of Fingo has no step "${type}"; open it with a newer one.`);
  }
  return operation;
}
