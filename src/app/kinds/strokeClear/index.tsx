import { howRebuilt } from '../../../operations/draftBase.ts';
import { strokeClear } from '../../../operations/kinds/strokeClear/index.ts';
import { EMPTY_MARK, type Mark, type MarkShape } from '../../../operations/marks/markSchema.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { Hint } from '../../features/bench/card/Hint.tsx';
import { paintStroke } from '../../features/bench/gestures/paintStroke.ts';
import type { HandInput, KindView } from '../../features/bench/kindView.ts';
import { strokeTake } from './strokeTake.ts';

/** A stroke that is cleared at once: a step of its own, with the take that comes next at this place. */
function clearStroke(stroke: MarkShape, { desk, deskView, store }: HandInput): void {
  const { draft, steps, source } = store.getState().bench.project!;
  const mark: Mark = { ...EMPTY_MARK, shapes: [{ ...stroke, combine: 'startOver' }] };
  const { planes: _planes, runOn: _runOn, ...how } = howRebuilt(draft);
  const add = (found: { mark: Mark; view?: typeof draft.view }, before: typeof steps): void => {
    const params = { ...how, light: draft.light, ...found };
    const take = strokeTake(mark, before, draft.view);
    store.dispatch(benchActions.stepAdded({ type: strokeClear.type, params, take, leavesDraft: true }));
  };
  if (draft.view || !source.sphere) add({ mark }, steps);
  // Rolled out flat, the surroundings of a stroke are stretched: it is cleared in a direct view.
  else desk.await(desk.picture.viewOfMark(mark, deskView.source.photo).then((found) => add(found, []), desk.tell));
}

export const strokeClearView: KindView = {
  type: strokeClear.type,
  Fields: () => <Hint>A stroke that was cleared when it was released.</Hint>,
  tool: {
    tool: 'kind strokeClear',
    label: 'Stroke away',
    key: 'W',
    hint: 'Paint over a cable, a pole, a speck: it is cleared when you lift the pen. Stroke again for another take.',
    begin: (at, input) =>
      paintStroke(at, 'startOver', { radiusPx: input.bench.brushRadiusPx, hardness: 1, intensity: 1 }, (stroke) =>
        clearStroke(stroke, input),
      ),
  },
};
