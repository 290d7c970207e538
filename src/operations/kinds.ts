import { FingoError } from '../core/errors.ts';
import type { Computation } from './computation.ts';
import type { StepCommand, StepKind } from './kind.ts';
import { borrow } from './kinds/borrow/index.ts';
import { clear } from './kinds/clear/index.ts';
import { duplicate } from './kinds/duplicate/index.ts';
import { enlarge } from './kinds/enlarge/index.ts';
import { lengthen } from './kinds/lengthen/index.ts';
import { move } from './kinds/move/index.ts';
import { refine } from './kinds/refine/index.ts';
import { reframe } from './kinds/reframe/index.ts';
import { stretch } from './kinds/stretch/index.ts';
import { strokeClear } from './kinds/strokeClear/index.ts';
import { text } from './kinds/text/index.ts';
import { turnSphere } from './kinds/turnSphere/index.ts';

/** A kind with what is loaded only where it is needed: its computation, and its command. */
type Entry<Kind> = readonly [
  kind: Kind,
  computation: () => Promise<{ computation: Computation<never> }>,
  command: () => Promise<{ command: StepCommand }>,
];

const listed = <Kinds extends readonly unknown[]>(...entries: { [K in keyof Kinds]: Entry<Kinds[K]> }) => entries;

/**
 * Every kind of step, in the order in which they are offered; the first is what gaps that were found are closed by. A
 * new kind is one folder in kinds/ and one line here, and one folder and one line in the interface.
 */
const ENTRIES = listed(
  [clear, () => import('./kinds/clear/compute.ts'), () => import('./kinds/clear/command.ts')],
  [move, () => import('./kinds/move/compute.ts'), () => import('./kinds/move/command.ts')],
  [duplicate, () => import('./kinds/duplicate/compute.ts'), () => import('./kinds/duplicate/command.ts')],
  [lengthen, () => import('./kinds/lengthen/compute.ts'), () => import('./kinds/lengthen/command.ts')],
  [borrow, () => import('./kinds/borrow/compute.ts'), () => import('./kinds/borrow/command.ts')],
  [strokeClear, () => import('./kinds/strokeClear/compute.ts'), () => import('./kinds/strokeClear/command.ts')],
  [refine, () => import('./kinds/refine/compute.ts'), () => import('./kinds/refine/command.ts')],
  [reframe, () => import('./kinds/reframe/compute.ts'), () => import('./kinds/reframe/command.ts')],
  [stretch, () => import('./kinds/stretch/compute.ts'), () => import('./kinds/stretch/command.ts')],
  [enlarge, () => import('./kinds/enlarge/compute.ts'), () => import('./kinds/enlarge/command.ts')],
  [text, () => import('./kinds/text/compute.ts'), () => import('./kinds/text/command.ts')],
  [turnSphere, () => import('./kinds/turnSphere/compute.ts'), () => import('./kinds/turnSphere/command.ts')],
);

type ChangeOf<Listed> = Listed extends readonly [StepKind<infer Type, infer _Params, infer Own>, ...unknown[]]
  ? { kind: Type } & Own
  : never;

/** The kind of step that a draft is to become, with what is its own: a union tagged by kind. */
export type AnyChange = ChangeOf<(typeof ENTRIES)[number]>;

/** Every kind of step. What one is given has passed its own schema. */
export const KINDS: readonly StepKind[] = ENTRIES.map(([kind]) => kind as unknown as StepKind);

/** The kind of this type. Throws `invalid-recipe` for an unknown one. */
export function kindOf(type: string): StepKind {
  const kind = KINDS.find((candidate) => candidate.type === type);
  if (!kind) {
    throw new FingoError('invalid-recipe', `This version of Fingo has no step "${type}"; open it with a newer one.`);
  }
  return kind;
}

const entryOf = (type: string) => ENTRIES.find(([kind]) => kind.type === kindOf(type).type)!;

/** The computation of a kind. What it is given has passed the kind's schema. */
export async function computationOf(type: string): Promise<Computation> {
  const [, load] = entryOf(type);
  return (await load()).computation as Computation;
}

/** How each kind is asked for on the command line. */
export async function loadCommands(): Promise<{ type: string; command: StepCommand }[]> {
  const commands: { type: string; command: StepCommand }[] = [];
  for (const [{ type }, , load] of ENTRIES) commands.push({ type, ...(await load()) });
  return commands;
}
