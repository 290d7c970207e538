import { AS_TAKEN } from '../../../core/geometry/frameGeometry.ts';
import { ownOf, type Draft } from '../../../operations/draft.ts';
import { stretch } from '../../../operations/kinds/stretch/index.ts';
import type { KindHand, KindView } from '../../features/bench/kindView.ts';
import { frameGesture, roomAround } from '../framing/frameHand.ts';
import { cursorOf, gripAt } from '../framing/paintFrame.ts';
import { paintStretching } from './paintStretching.ts';
import { StretchCard } from './StretchCard.tsx';

const frameOf = (draft: Draft) => {
  const { width, height } = ownOf(draft, stretch)!;
  return { ...AS_TAKEN, rect: { x: 0, y: 0, width, height } };
};

const stretchHand: KindHand = {
  begin(at, screenPoint, input) {
    if (input.bench.paintTarget !== 'mark') return undefined;
    const dragging = frameGesture(frameOf(input.draft), at, screenPoint, input, {
      // Only the size counts: the whole cannot be put elsewhere, and no ratio is kept.
      ratio: undefined,
      takes: ({ x, y }) => x !== 0 || y !== 0,
      toChange: ({ width, height }) => ({ width, height }),
    });
    if (!dragging) return 'pan';
    return {
      ...dragging,
      move(point, held) {
        dragging.move(point, held);
        const live = dragging.live();
        if (live?.kind === 'change') input.desk.glance(live.change);
      },
    };
  },
  cursor: (screenPoint, _at, { draft, bench, view }) =>
    bench.paintTarget === 'mark' ? cursorOf(gripAt(frameOf(draft).rect, view.get(), screenPoint)) : undefined,
  room: (draft, photo) => roomAround(frameOf(draft), photo),
};

export const stretchView: KindView = {
  type: stretch.type,
  way: 'Stretch',
  useLabel: 'Use the stretched picture',
  Card: StretchCard,
  hand: stretchHand,
  paint: { instead: paintStretching },
};
