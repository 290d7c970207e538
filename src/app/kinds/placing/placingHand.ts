import { isMarked } from '../../../operations/draftBase.ts';
import { benchActions } from '../../state/benchSlice.ts';
import type { HandInput, KindHand } from '../../features/bench/kindView.ts';
import { CORNER_PX } from '../../features/bench/photo/paintGuides.ts';
import { photoToScreen, type Point } from '../../features/bench/photo/viewport.ts';
import { dragShift } from '../dragging/dragShift.ts';
import { dragHorizon } from './dragHorizon.ts';
import { onGround } from './onGround.ts';
import { placingPainter } from './paintPlacing.ts';
import { placingOf } from './usePlacing.ts';

const isOnHorizon = ({ y }: Point, { draft, view }: HandInput): boolean => {
  const { horizonPx } = placingOf(draft);
  return horizonPx !== undefined && Math.abs(photoToScreen(view.get(), { x: 0, y: horizonPx }).y - y) <= CORNER_PX;
};

const groundOf = ({ draft, deskView }: HandInput, horizonPx = placingOf(draft).horizonPx) =>
  onGround(draft.mark, placingOf(draft).placement, deskView, horizonPx);

/** A subject that is put elsewhere: dragged and nudged, on the ground where there is a horizon, which is dragged, too. */
export const placingHand: KindHand = {
  goesTo: placingPainter.markThrough!,
  begin(at, screenPoint, input) {
    const { placement } = placingOf(input.draft);
    const done = (change: object): void =>
      void input.store.dispatch(benchActions.changeSet({ change, gesture: 'place' }));
    if (isOnHorizon(screenPoint, input)) {
      return dragHorizon((horizonPx) => {
        const ground = groundOf(input, horizonPx);
        return { horizonPx, ...(ground && { placement: { ...placement, ...ground.settle(ground.from) } }) };
      }, done);
    }
    if (input.bench.paintTarget !== 'mark' || !input.isOnMark(screenPoint)) return undefined;
    const ground = groundOf(input);
    return dragShift(
      at,
      ground?.from ?? placement,
      (shift) => ({ placement: { ...placement, ...(ground?.settle(shift) ?? shift) } }),
      done,
    );
  },
  cursor(screenPoint, _at, input) {
    if (isOnHorizon(screenPoint, input)) return 'pointer';
    return input.isOnMark(screenPoint) ? 'move' : undefined;
  },
  nudge(direction, stepPx, input) {
    if (!isMarked(input.draft)) return false;
    const { placement } = placingOf(input.draft);
    const ground = groundOf(input);
    const { dxPx, dyPx } = ground?.from ?? placement;
    const shift = { dxPx: dxPx + direction.x * stepPx, dyPx: dyPx + direction.y * stepPx };
    const change = { placement: { ...placement, ...(ground?.settle(shift) ?? shift) } };
    input.store.dispatch(benchActions.changeSet({ change, gesture: 'place' }));
    return true;
  },
};
