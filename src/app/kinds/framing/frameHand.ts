import { isAsTaken, uprightCorners, type FrameGeometry } from '../../../core/geometry/frameGeometry.ts';
import { largestRectInside } from '../../../core/geometry/rectInside.ts';
import { boundsOfPoints, inflate, unite, type Rect, type Size } from '../../../core/image/rect.ts';
import type { Gesture } from '../../features/bench/gestures/gesture.ts';
import type { HandInput } from '../../features/bench/kindView.ts';
import type { Point } from '../../features/bench/photo/viewport.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { dragFrame, type FrameGrip } from './dragFrame.ts';
import { gripAt } from './paintFrame.ts';

/** Edges come to rest at the photo's from so near, CSS px. */
const NEAR_PX = 8;

/** Drags a frame by what lies under the pointer; undefined where nothing of it does. */
export function frameGesture(
  frame: FrameGeometry,
  at: Point,
  screenPoint: Point,
  { view, deskView, store }: HandInput,
  {
    ratio,
    takes = () => true,
    toChange,
  }: { ratio: number | undefined; takes?: (grip: FrameGrip) => boolean; toChange: (rect: Rect) => object },
): Gesture | undefined {
  const grip = gripAt(frame.rect, view.get(), screenPoint);
  if (!grip || !takes(grip)) return undefined;
  const corners = uprightCorners(frame, deskView.source.photo);
  const outer = boundsOfPoints(corners);
  const inner = isAsTaken(frame) ? undefined : largestRectInside(corners, frame.rect.width / frame.rect.height);
  const rects = inner ? [outer, inner] : [outer];
  const stops = {
    x: rects.flatMap(({ x, width }) => [x, x + width]),
    y: rects.flatMap(({ y, height }) => [y, y + height]),
  };
  const nearPx = NEAR_PX / view.get().scale;
  return dragFrame(frame.rect, grip, at, { ratio, stops, nearPx }, toChange, (change) =>
    store.dispatch(benchActions.changeSet({ change, gesture: 'frame' })),
  );
}

/** Frame and photo with some room to drag the frame into. */
export function roomAround(frame: FrameGeometry, photo: Size): Rect {
  const both = unite(frame.rect, boundsOfPoints(uprightCorners(frame, photo)));
  return inflate(both, Math.round(0.07 * Math.max(both.width, both.height)));
}
