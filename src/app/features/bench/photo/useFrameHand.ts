import { useEffect, useMemo } from 'react';
import { AS_TAKEN, isAsTaken, uprightCorners, uprightHomography } from '../../../../core/geometry/frameGeometry.ts';
import { boundsOfPoints } from '../../../../core/image/rect.ts';
import { applyHomography, invertHomography } from '../../../../core/geometry/homography.ts';
import { largestRectInside } from '../../../../core/geometry/rectInside.ts';
import { uprightFromLines } from '../../../../core/geometry/uprightFrom.ts';
import type { DrawnLine } from '../../../../core/geometry/uprightFrom.ts';
import { inflate, unite, wholeOf, type Size } from '../../../../core/image/rect.ts';
import { useAppDispatch } from '../../../store/store.ts';
import { benchActions, type PhotoState } from '../benchSlice.ts';
import { dragFrame } from '../gestures/dragFrame.ts';
import { drawLine } from '../gestures/drawLine.ts';
import type { Gesture } from '../gestures/gesture.ts';
import { cursorOf, gripAt } from './paintFrame.ts';
import type { ViewControl } from './viewControl.ts';
import type { Point } from './viewport.ts';

/** Edges come to rest at the photo's from so near, CSS px. */
const NEAR_PX = 8;
const SHORTEST_LINE_PX = 24;

interface FrameHandInput {
  photo: Size;
  view: ViewControl;
  bench: PhotoState;
  /** Told the size to which the picture is just being dragged. */
  onStretching: (size: Size) => void;
}

/** What the hand does on the photo while its frame is set, and how much of its surroundings is in sight. */
export function useFrameHand({ photo, view, bench, onStretching }: FrameHandInput) {
  const dispatch = useAppDispatch();
  const { draft, lineWanted, lines, frameRatio } = bench;
  const { stretch } = draft;
  const frame = useMemo(
    () =>
      draft.reframe?.frame ??
      (stretch && { ...AS_TAKEN, rect: { x: 0, y: 0, width: stretch.width, height: stretch.height } }),
    [draft.reframe, stretch],
  );
  const isFraming = frame !== undefined;

  useEffect(() => {
    view.extend(
      frame ? roomAround(frame.rect, boundsOfPoints(uprightCorners(frame, photo))) : wholeOf(photo),
      isFraming,
    );
  }, [view, photo, frame, isFraming]);

  /** Drawn lines are kept in px of the photo, so that they stay on what they were drawn along. */
  const drawnLines = useMemo((): DrawnLine[] => {
    if (!frame) return [];
    const map = uprightHomography(frame, photo);
    return lines.map(({ from, to }) => ({
      from: applyHomography(map, from.x, from.y),
      to: applyHomography(map, to.x, to.y),
    }));
  }, [frame, lines, photo]);

  const begin = (at: Point, screenPoint: Point): Gesture | undefined => {
    if (!frame) return undefined;
    dispatch(benchActions.gestureEnded());
    if (lineWanted) {
      return drawLine(at, SHORTEST_LINE_PX / view.get().scale, ({ from, to }) => {
        const back = invertHomography(uprightHomography(frame, photo));
        const line = { from: applyHomography(back, from.x, from.y), to: applyHomography(back, to.x, to.y) };
        const all = [...lines, line];
        dispatch(benchActions.lineDrawn({ lines: all, upright: uprightFromLines(all, photo) }));
      });
    }
    const grip = gripAt(frame.rect, view.get(), screenPoint);
    if (!grip) return undefined;
    const corners = uprightCorners(frame, photo);
    const outer = boundsOfPoints(corners);
    const inner = isAsTaken(frame) ? undefined : largestRectInside(corners, frame.rect.width / frame.rect.height);
    const rects = inner ? [outer, inner] : [outer];
    const stops = {
      x: rects.flatMap(({ x, width }) => [x, x + width]),
      y: rects.flatMap(({ y, height }) => [y, y + height]),
    };
    const nearPx = NEAR_PX / view.get().scale;
    // Stretching, only the size counts: the whole cannot be put elsewhere, and no ratio is kept.
    if (stretch && grip.x === 0 && grip.y === 0) return undefined;
    const ratio = stretch ? undefined : frameRatio;
    const dragging = dragFrame(frame.rect, grip, at, { ratio, stops, nearPx }, (rect) => {
      if (stretch) dispatch(benchActions.stretchSet({ width: rect.width, height: rect.height }));
      else dispatch(benchActions.frameSet({ rect }));
    });
    if (!stretch) return dragging;
    return {
      ...dragging,
      move(point, held) {
        dragging.move(point, held);
        const live = dragging.live();
        if (live?.kind === 'frame') onStretching(live.rect);
      },
    };
  };

  const cursor = (screenPoint: Point): string =>
    lineWanted ? 'crosshair' : cursorOf(frame && gripAt(frame.rect, view.get(), screenPoint));

  return { drawnLines, begin, cursor };
}

/** Frame and photo with some room to drag the frame into. */
function roomAround(frame: Parameters<typeof unite>[0], photo: Parameters<typeof unite>[0]) {
  const both = unite(frame, photo);
  return inflate(both, Math.round(0.07 * Math.max(both.width, both.height)));
}
