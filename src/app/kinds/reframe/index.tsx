import { uprightFromLines } from '../../../core/geometry/uprightFrom.ts';
import { ownOf, type Draft } from '../../../operations/draft.ts';
import { reframe } from '../../../operations/kinds/reframe/index.ts';
import { benchActions } from '../../state/benchSlice.ts';
import type { KindHand, KindView } from '../../features/bench/kindView.ts';
import { frameGesture, roomAround } from '../framing/frameHand.ts';
import { cursorOf, gripAt } from '../framing/paintFrame.ts';
import { lineOfPhoto } from './drawnLines.ts';
import { drawLine } from './drawLine.ts';
import { FrameCard } from './FrameCard.tsx';
import { paintReframing } from './paintReframing.ts';

const MIN_LINE_PX = 24;

const frameOf = (draft: Draft) => ownOf(draft, reframe)!.frame;

const frameHand: KindHand = {
  begin(at, screenPoint, input) {
    const { bench, view, store, deskView } = input;
    if (bench.paintTarget !== 'mark') return undefined;
    const frame = frameOf(input.draft);
    if (bench.lineWanted) {
      const { photo } = deskView.source;
      return drawLine(at, MIN_LINE_PX / view.get().scale, (line) => {
        const lines = [...bench.lines, lineOfPhoto(line, frame, photo)];
        const change = { frame: { ...frame, ...uprightFromLines(lines, photo) } };
        store.dispatch(benchActions.changeSet({ change, gesture: '' }));
        store.dispatch(benchActions.linesDrawn(lines));
      });
    }
    const toChange = (rect: typeof frame.rect) => ({ frame: { ...frame, rect } });
    return frameGesture(frame, at, screenPoint, input, { ratio: bench.frameRatio, toChange }) ?? 'pan';
  },
  cursor(screenPoint, _at, { draft, bench, view }) {
    if (bench.paintTarget !== 'mark') return undefined;
    return bench.lineWanted ? 'crosshair' : cursorOf(gripAt(frameOf(draft).rect, view.get(), screenPoint));
  },
  room: (draft, photo) => roomAround(frameOf(draft), photo),
};

export const reframeView: KindView = {
  type: reframe.type,
  way: 'New frame',
  useLabel: 'Use this frame',
  Card: FrameCard,
  hand: frameHand,
  paint: { instead: paintReframing },
};
