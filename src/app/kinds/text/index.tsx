import { ownOf } from '../../../operations/draft.ts';
import { text } from '../../../operations/kinds/text/index.ts';
import { benchActions } from '../../state/benchSlice.ts';
import type { KindHand, KindView } from '../../features/bench/kindView.ts';
import { dragShift } from '../dragging/dragShift.ts';
import { isOnText, paintText } from './paintText.ts';
import { TextCard } from './TextCard.tsx';

const textHand: KindHand = {
  begin(at, _screenPoint, { draft, store }) {
    const own = ownOf(draft, text)!;
    if (!isOnText(own, at)) return 'pan';
    return dragShift(
      at,
      { dxPx: own.x, dyPx: own.y },
      ({ dxPx: x, dyPx: y }) => ({ x, y }),
      (change) => store.dispatch(benchActions.changeSet({ change, gesture: 'text' })),
    );
  },
  cursor: (_screenPoint, at, { draft }) => (isOnText(ownOf(draft, text)!, at) ? 'move' : 'default'),
  nudge(direction, stepPx, { draft, store }) {
    const { x, y } = ownOf(draft, text)!;
    const change = { x: x + direction.x * stepPx, y: y + direction.y * stepPx };
    store.dispatch(benchActions.changeSet({ change, gesture: 'text' }));
    return true;
  },
};

export const textView: KindView = {
  type: text.type,
  way: 'Text',
  Card: TextCard,
  hand: textHand,
  paint: { beforeTake: paintText },
};
