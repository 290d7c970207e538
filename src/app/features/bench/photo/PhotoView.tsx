import Box from '@mui/material/Box';
import { useGesture } from '@use-gesture/react';
import { useCallback, useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { placementToAffine } from '../../../../core/image/affine.ts';
import type { Combine } from '../../../../core/mask/combine.ts';
import { shallowEqual } from 'react-redux';
import { subjectFrame } from '../../../../operations/rebuild/placeMarked.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { SURROUNDS } from '../../../theme/viewSettings.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';
import { benchActions, selectPhotoState } from '../benchSlice.ts';
import { isMarked, isPlacing } from '../draft.ts';
import { dragCorner } from '../gestures/dragCorner.ts';
import { drawLasso } from '../gestures/drawLasso.ts';
import type { Gesture } from '../gestures/gesture.ts';
import { paintStroke } from '../gestures/paintStroke.ts';
import { placeSubject } from '../gestures/placeSubject.ts';
import { planesInSight, withCorner } from '../planes.ts';
import { CORNER_PX } from './paintGuides.ts';
import { ringsToPath } from './paintMark.ts';
import { paintBench } from './paintBench.ts';
import { SplitDivider } from './SplitDivider.tsx';
import { createTileCache } from './tileCache.ts';
import { usePhotoKeys } from './usePhotoKeys.ts';
import { photoToScreen, screenToPhoto, type Point } from './viewport.ts';

/** The photo with what is marked, made and dragged on it, and the hand that works on it. */
export function PhotoView() {
  const { desk, view, looking } = useBenchParts();
  const deskView = useDeskView();
  const dispatch = useAppDispatch();
  const bench = useAppSelector(selectPhotoState, shallowEqual);
  const surround = useAppSelector((state) => state.viewSettings.surround);
  const { draft } = bench;
  const photo = desk.picture.source.photo;

  const canvasRef = useRef<HTMLCanvasElement>(null);
  const gesture = useRef<Gesture | undefined>(undefined);
  const panning = useRef<Point | undefined>(undefined);
  const hover = useRef<Point | undefined>(undefined);
  const [split, setSplit] = useState(0.5);
  const paintRef = useRef<() => void>(() => undefined);
  const scheduled = useRef(0);
  const schedule = useCallback(() => {
    scheduled.current ||= requestAnimationFrame(() => {
      scheduled.current = 0;
      paintRef.current();
    });
  }, []);
  const tiles = useMemo(() => createTileCache(desk.picture, schedule), [desk, schedule]);
  useEffect(() => () => tiles.clear(), [tiles]);

  /** Where a screen point lies on the marked subject, at its old or its new place. */
  const isOnSubject = (screenPoint: Point): boolean => {
    const context = canvasRef.current?.getContext('2d');
    const { outline } = deskView;
    if (!context || !outline || !isMarked(draft)) return false;
    const affine = placementToAffine(draft.placement, subjectFrame(draft.mark, photo).centre);
    context.setTransform(1, 0, 0, 1, 0, 0);
    return [undefined, affine].some((through) =>
      context.isPointInPath(ringsToPath(outline.solid, view.get(), through), screenPoint.x, screenPoint.y, 'evenodd'),
    );
  };

  /** The plane's corner under a screen point, if planes are shown. */
  const cornerAt = (screenPoint: Point): { plane: number; corner: number } | undefined => {
    if (!bench.planesShown) return undefined;
    for (const [plane, { corners }] of planesInSight(draft, deskView.reports).entries()) {
      for (const [corner, point] of corners.entries()) {
        const at = photoToScreen(view.get(), point);
        if (Math.hypot(at.x - screenPoint.x, at.y - screenPoint.y) <= CORNER_PX + 5) return { plane, corner };
      }
    }
    return undefined;
  };

  const begin = (at: Point, combine: Combine): Gesture => {
    const done = (shape: Parameters<typeof benchActions.shapeDrawn>[0]): void => {
      dispatch(benchActions.shapeDrawn(shape));
    };
    if (bench.tool === 'lasso') return drawLasso(at, combine, 0.7 / view.get().scale, done);
    return paintStroke(at, combine, { radiusPx: bench.brushRadiusPx, hardness: bench.brushHardness }, done);
  };
  const keys = usePhotoKeys({ photo, view, bench, gesture, begin, schedule });

  useEffect(() => {
    paintRef.current = () => {
      const canvas = canvasRef.current;
      const context = canvas?.getContext('2d');
      const screen = view.screen();
      if (!canvas || !context || screen.width === 0) return;
      const brushAt = bench.tool === 'brush' && !gesture.current ? hover.current : undefined;
      paintBench(context, {
        photo,
        levels: desk.picture.levels,
        tiles,
        view: view.get(),
        screen,
        pixelRatio: devicePixelRatio,
        desk: deskView,
        draft,
        hoveredTake: looking.hoveredTake,
        original: looking.original,
        splitAt: bench.split ? split * screen.width : undefined,
        markShown: bench.markShown,
        planesShown: bench.planesShown,
        donorsShown: bench.donorsShown,
        live: gesture.current?.live(),
        brush: brushAt && { at: brushAt, radiusPx: bench.brushRadiusPx },
        pen: keys.pen.current,
        whenReady: schedule,
      });
    };
    schedule();
  });
  useEffect(() => view.subscribe(schedule), [view, schedule]);

  useEffect(() => {
    const canvas = canvasRef.current!;
    const observer = new ResizeObserver(() => {
      const { clientWidth: width, clientHeight: height } = canvas;
      canvas.width = Math.round(width * devicePixelRatio);
      canvas.height = Math.round(height * devicePixelRatio);
      view.resize({ width, height });
    });
    observer.observe(canvas);
    return () => observer.disconnect();
  }, [view]);

  useGesture(
    {
      onWheel: ({ event, delta: [dx, dy] }) => {
        event.preventDefault();
        if (event.shiftKey) view.panBy(-(dx || dy), 0);
        else view.zoomBy(Math.exp(-dy * (event.ctrlKey ? 0.01 : 0.0018)), localPoint(event));
      },
      onPinch: ({ origin: [x, y], delta: [ds], offset: [scale], event, touches }) => {
        if (touches < 2 || event.type === 'wheel') return;
        gesture.current?.cancel();
        gesture.current = undefined;
        view.zoomBy(scale / (scale - ds), toLocal(x, y));
      },
    },
    { target: canvasRef, eventOptions: { passive: false }, pinch: { pointer: { touch: true } } },
  );

  const toLocal = (x: number, y: number): Point => {
    const box = canvasRef.current!.getBoundingClientRect();
    return { x: x - box.left, y: y - box.top };
  };
  const localPoint = (event: { clientX: number; clientY: number }): Point => toLocal(event.clientX, event.clientY);

  const onPointerDown = (event: PointerEvent<HTMLCanvasElement>): void => {
    if (event.button > 1 || gesture.current) return;
    const screenPoint = localPoint(event);
    canvasRef.current!.setPointerCapture(event.pointerId);
    if (event.button === 1 || keys.spaceHeld.current || looking.original || bench.split) {
      panning.current = screenPoint;
      return;
    }
    const at = screenToPhoto(view.get(), screenPoint);
    const corner = cornerAt(screenPoint);
    if (corner) {
      dispatch(benchActions.gestureEnded());
      gesture.current = dragCorner(corner.plane, corner.corner, (to) => {
        const planes = planesInSight(draft, deskView.reports);
        const moved = planes.map((plane, k) => (k === corner.plane ? withCorner(plane, corner.corner, to) : plane));
        dispatch(benchActions.planesSet(moved));
      });
    } else if (
      bench.paintTarget === 'mark' &&
      isPlacing(draft.what) &&
      isOnSubject(screenPoint) &&
      !event.shiftKey &&
      !event.altKey
    ) {
      dispatch(benchActions.gestureEnded());
      gesture.current = placeSubject(at, draft.placement, (shift) => dispatch(benchActions.placed(shift)));
    } else {
      const combine = event.altKey ? 'without' : event.shiftKey ? 'also' : bench.combine;
      gesture.current = begin(at, combine);
    }
    schedule();
  };

  const onPointerMove = (event: PointerEvent<HTMLCanvasElement>): void => {
    const screenPoint = localPoint(event);
    if (panning.current) {
      view.panBy(screenPoint.x - panning.current.x, screenPoint.y - panning.current.y);
      panning.current = screenPoint;
      return;
    }
    hover.current = screenToPhoto(view.get(), screenPoint);
    if (gesture.current) {
      for (const part of event.nativeEvent.getCoalescedEvents?.() ?? []) {
        gesture.current.move(screenToPhoto(view.get(), localPoint(part)));
      }
      gesture.current.move(hover.current);
    }
    const overCorner = !gesture.current && cornerAt(screenPoint) !== undefined;
    const overSubject = !gesture.current && isPlacing(draft.what) && isOnSubject(screenPoint);
    canvasRef.current!.style.cursor = keys.spaceHeld.current
      ? 'grab'
      : overCorner
        ? 'pointer'
        : overSubject
          ? 'move'
          : 'crosshair';
    schedule();
  };

  const finish = (ends: boolean): void => {
    panning.current = undefined;
    const current = gesture.current;
    gesture.current = undefined;
    if (ends) current?.end();
    else current?.cancel();
    schedule();
  };

  return (
    <Box sx={{ position: 'relative', flex: 1, minWidth: 0, minHeight: 0, bgcolor: SURROUNDS[surround] }}>
      <canvas
        ref={canvasRef}
        role="application"
        aria-label="The photo. Draw with the pointer, or press K for a pen that the arrow keys move."
        aria-roledescription="photo"
        tabIndex={0}
        style={{
          position: 'absolute',
          inset: 0,
          width: '100%',
          height: '100%',
          touchAction: 'none',
          cursor: 'crosshair',
        }}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={() => finish(true)}
        onPointerCancel={() => finish(false)}
        onPointerLeave={() => {
          hover.current = undefined;
          schedule();
        }}
        onKeyDown={keys.onKeyDown}
        onKeyUp={keys.onKeyUp}
      />
      {bench.split && <SplitDivider share={split} onChange={setSplit} />}
    </Box>
  );
}
