import { turnSchema, turnSphere, type SphereTurn } from '../../../operations/kinds/turnSphere/index.ts';
import { benchActions } from '../../state/benchSlice.ts';
import type { BenchState } from '../../state/benchState.ts';

const turnOfParams = (params: unknown): SphereTurn => turnSchema.parse(params ?? {});
let last: { params: unknown; turn: SphereTurn } | undefined;

/** How the sphere is turned: by the step that was opened, else by the last that does it. */
export function turnNow({ project, adjusted }: BenchState): SphereTurn {
  const { steps } = project!;
  const opened = steps.find(({ id, type }) => id === adjusted && type === turnSphere.type);
  const step = opened ?? steps.findLast(({ type, enabled }) => type === turnSphere.type && enabled);
  if (last?.params !== step?.params || !last) last = { params: step?.params, turn: turnOfParams(step?.params) };
  return last.turn;
}

export const setTurn = (own: SphereTurn) => benchActions.setAtOnce({ type: turnSphere.type, own });
