import Box from '@mui/material/Box';
import { useGesture } from '@use-gesture/react';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { shallowEqual } from 'react-redux';
import { wholeOf } from '../../../../core/image/rect.ts';
import type { Combine } from '../../../../core/mask/combine.ts';
import { sameView } from '../../../../core/sphere/sphereView.ts';
import { jobOf, type Draft } from '../../../../operations/draft.ts';
import { isMarked } from '../../../../operations/draftBase.ts';
import type { StepKind } from '../../../../operations/kind.ts';
import { kindOf, type AnyChange } from '../../../../operations/kinds.ts';
import { benchActions, selectPhotoState } from '../../../state/benchSlice.ts';
import type { MarkTool } from '../../../state/benchState.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../../../store/store.ts';
import { SURROUNDS } from '../../../theme/viewSettings.ts';
import { useBenchParts, useDeskView, useKindView } from '../benchContext.ts';
import { hasBrush } from '../card/tools.ts';
import { dragCorner } from '../gestures/dragCorner.ts';
import { drawFrame } from '../gestures/drawFrame.ts';
import { drawLasso } from '../gestures/drawLasso.ts';
import { dragLine } from '../gestures/dragLine.ts';
import { drawRunOn } from '../gestures/drawRunOn.ts';
import { followEdges } from '../gestures/followEdges.ts';
import { setsPoints, type Gesture, type LiveShape } from '../gestures/gesture.ts';
import { paintStroke } from '../gestures/paintStroke.ts';
import { setCorners } from '../gestures/setCorners.ts';
import { touchColour } from '../gestures/touchColour.ts';
import type { HandInput } from '../kindView.ts';
import { planesInSight, withCorner } from '../planes.ts';
import { handRings } from './handRings.ts';
import { paintBench } from './paintBench.ts';
import { handlesOf, linesInSight, type LineHandle } from '../runOn.ts';
import { CORNER_PX } from './paintGuides.ts';
import { ringsToPath } from './paintMark.ts';
import { POINT_PX } from './paintRunOn.ts';
import { SplitDivider } from './SplitDivider.tsx';
import { createTileCache } from './tileCache.ts';
import { usePhotoKeys } from './usePhotoKeys.ts';
import { photoToScreen, screenToPhoto, type Point } from './viewport.ts';

/** The tool by which donors, protection and the like are painted: those that make something of the picture don't fit. */
const plainTool = (tool: MarkTool): MarkTool =>
  tool === 'reach' || tool.startsWith('kind ') ? 'brush' : tool === 'subject' ? 'lasso' : tool;

const changesFrame = ({ reshape, reshapesByLook }: StepKind): boolean =>
  reshape !== undefined || reshapesByLook === true;

/** A draft as it would be if what is being dragged were let go. */
const withLive = (draft: Draft, live: LiveShape | undefined): Draft =>
  live?.kind === 'change' && draft.change
    ? { ...draft, change: { ...draft.change, ...live.change } as AnyChange }
    : draft;

/** The photo with what is marked, made and dragged on it, and the hand that works on it. */
export function PhotoView() {
  const { desk, view, looking, kinds } = useBenchParts();
  const kindView = useKindView();
  const deskView = useDeskView();
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const bench = useAppSelector(selectPhotoState, shallowEqual);
  const surround = useAppSelector((state) => state.viewSettings.surround);
  const { draft } = bench;
  const { photo } = deskView.source;

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
  const isOnMark = (screenPoint: Point): boolean => {
    const context = canvasRef.current?.getContext('2d');
    if (!context || !isMarked(draft)) return false;
    const rings = handRings(draft.mark, deskView, photo);
    const affine = kindView?.hand?.goesTo?.(draft, photo);
    context.setTransform(1, 0, 0, 1, 0, 0);
    return [undefined, affine].some((through) =>
      context.isPointInPath(ringsToPath(rings, view.get(), through), screenPoint.x, screenPoint.y, 'evenodd'),
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

  /** The place of a line that runs on under a screen point, if they are shown; of the line in hand first. */
  const lineHandleAt = (screenPoint: Point): LineHandle | undefined => {
    if (!bench.runOnShown) return undefined;
    const lines = [...linesInSight(draft, deskView).entries()].filter(([, { on }]) => on);
    lines.sort(([a], [b]) => Number(b === bench.runOnInHand) - Number(a === bench.runOnInHand));
    return lines
      .flatMap(([index, line]) => handlesOf(line, index))
      .filter(({ line, isNew }) => !isNew || line === bench.runOnInHand)
      .find(({ at }) => {
        const { x, y } = photoToScreen(view.get(), at);
        return Math.hypot(x - screenPoint.x, y - screenPoint.y) <= POINT_PX + 5;
      });
  };

  /** The step whose piece lies under a photo point, the last one first. */
  const pieceAt = (at: Point): string | undefined => {
    const { steps } = store.getState().bench.project!;
    // What was placed before the frame changed lies elsewhere by now.
    const reframed = steps.findLastIndex(({ enabled, type }) => enabled && changesFrame(kindOf(type)));
    const placed = steps
      .slice(reframed + 1)
      .filter(({ enabled, params }) => enabled && sameView(params.view, draft.view));
    return placed.reverse().find(({ type, params }) => {
      const rect = kindOf(type).piece?.(params, photo);
      return rect && at.x >= rect.x && at.y >= rect.y && at.x < rect.x + rect.width && at.y < rect.y + rect.height;
    })?.id;
  };

  const handInput = (): HandInput => ({ draft, desk, deskView, bench, view, store, isOnMark });

  const begin = (at: Point, combine: Combine): Gesture => {
    const done = (shape: Parameters<typeof benchActions.shapeDrawn>[0]): void => {
      dispatch(benchActions.shapeDrawn(shape));
    };
    const { brushRadiusPx: radiusPx, brushHardness: hardness, brushIntensity: intensity } = bench;
    const { scale } = view.get();
    if (bench.runOnWanted) {
      const lines = linesInSight(draft, deskView);
      return drawRunOn(at, lines, { tolerancePx: 4 / scale, shortestPx: 12 / scale }, (drawn) => {
        dispatch(benchActions.gestureEnded());
        dispatch(benchActions.runOnSet(drawn));
        dispatch(benchActions.runOnTaken(drawn.length - 1));
      });
    }
    const tool = bench.paintTarget === 'mark' ? bench.tool : plainTool(bench.tool);
    const kindTool = kinds.find((each) => each.tool?.tool === tool)?.tool;
    if (kindTool) return kindTool.begin(at, handInput());
    switch (tool) {
      case 'lasso':
        return drawLasso(at, combine, 0.7 / scale, done);
      case 'subject':
        return drawLasso(at, combine, 0.7 / scale, (shape) => void desk.markSubject(shape));
      case 'corners':
        return setCorners(at, combine, 10 / scale, done);
      case 'edges': {
        const level = Math.max(0, Math.round(Math.log2(1 / scale)));
        const ways = { waysFrom: (from: Point) => desk.edgesFrom(from, level), repaint: schedule };
        const reach = { nearPx: 10 / scale, drawnPx: 6 / scale, tolerancePx: 0.7 / scale };
        return followEdges(at, combine, { ...reach, ...ways }, done);
      }
      case 'box':
      case 'ellipse':
        return drawFrame(bench.tool === 'box' ? 'box' : 'ellipse', at, combine, done);
      case 'reach':
        return touchColour(at, (point) => void desk.markReach(point, combine));
      default:
        return paintStroke(at, combine, { radiusPx, hardness, intensity }, done);
    }
  };
  const { change } = draft;
  const room = useMemo(
    () => change && kindView?.hand?.room?.({ ...draft, change }, photo),
    // Nothing but the draft's own settings and the photo say how much room there is.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [kindView, change, photo],
  );
  useEffect(() => view.extend(room ?? wholeOf(photo), room !== undefined), [view, photo, room]);
  const nudge = (direction: Point, stepPx: number): boolean =>
    kindView?.hand?.nudge?.(direction, stepPx, handInput()) ?? false;
  const keys = usePhotoKeys({ photo, view, bench, gesture, begin, schedule, nudge });

  useEffect(() => {
    paintRef.current = () => {
      const canvas = canvasRef.current;
      const context = canvas?.getContext('2d');
      const screen = view.screen();
      if (!canvas || !context || screen.width === 0) return;
      const paints = hasBrush(bench.tool);
      const brushAt = paints && !gesture.current ? hover.current : undefined;
      const live = gesture.current?.live();
      const scene = {
        tiles,
        view: view.get(),
        screen,
        pixelRatio: devicePixelRatio,
        desk: deskView,
        draft: withLive(draft, live),
        isDragged: live?.kind === 'change',
        hoveredTake: looking.hoveredTake,
        original: looking.original,
        splitAt: bench.split ? split * screen.width : undefined,
        markShown: bench.markShown,
        paintTarget: bench.paintTarget,
        planesShown: bench.planesShown,
        donorsShown: bench.donorsShown,
        runOnShown: bench.runOnShown,
        runOnInHand: bench.runOnInHand,
        overlays: bench.overlays,
        lines: bench.lines,
        live,
        brush: brushAt && { at: brushAt, radiusPx: bench.brushRadiusPx },
        pen: keys.pen.current,
        whenReady: schedule,
      };
      paintBench(context, scene, kindView?.paint);
    };
    schedule();
  });
  useEffect(() => view.subscribe(schedule), [view, schedule]);

  // Measured before anything can be pressed: where a point lies in the photo depends on it.
  useLayoutEffect(() => {
    const canvas = canvasRef.current!;
    const measure = (): void => {
      const { clientWidth: width, clientHeight: height } = canvas;
      canvas.width = Math.round(width * devicePixelRatio);
      canvas.height = Math.round(height * devicePixelRatio);
      view.resize({ width, height });
    };
    measure();
    const observer = new ResizeObserver(measure);
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
    const screenPoint = localPoint(event);
    if (setsPoints(gesture.current)) {
      gesture.current.set(screenToPhoto(view.get(), screenPoint));
      schedule();
      return;
    }
    if (event.button > 1 || gesture.current) return;
    canvasRef.current!.setPointerCapture(event.pointerId);
    if (event.button === 1 || keys.spaceHeld.current || looking.original || bench.split) {
      panning.current = screenPoint;
      return;
    }
    const at = screenToPhoto(view.get(), screenPoint);
    const lineHandle = lineHandleAt(screenPoint);
    const corner = lineHandle ? undefined : cornerAt(screenPoint);
    const isHeld = event.shiftKey || event.altKey;
    const ofKind =
      lineHandle || corner || bench.runOnWanted || (isHeld && jobOf(draft) === 'subjects')
        ? undefined
        : kindView?.hand?.begin(at, screenPoint, handInput());
    if (lineHandle) {
      dispatch(benchActions.gestureEnded());
      dispatch(benchActions.runOnTaken(lineHandle.line));
      gesture.current = dragLine(linesInSight(draft, deskView), lineHandle, (moved) => {
        dispatch(benchActions.runOnSet(moved));
      });
    } else if (corner) {
      dispatch(benchActions.gestureEnded());
      gesture.current = dragCorner(corner.plane, corner.corner, (to) => {
        const planes = planesInSight(draft, deskView.reports);
        const moved = planes.map((plane, k) => (k === corner.plane ? withCorner(plane, corner.corner, to) : plane));
        dispatch(benchActions.planesSet(moved));
      });
    } else if (ofKind === 'pan') {
      panning.current = screenPoint;
    } else if (ofKind) {
      dispatch(benchActions.gestureEnded());
      gesture.current = ofKind;
    } else {
      const both = event.altKey && event.shiftKey;
      const combine = both ? 'onlyBoth' : event.altKey ? 'without' : event.shiftKey ? 'also' : bench.combine;
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
    const held = { shift: event.shiftKey, alt: event.altKey };
    if (gesture.current) {
      for (const part of event.nativeEvent.getCoalescedEvents?.() ?? []) {
        gesture.current.move(screenToPhoto(view.get(), localPoint(part)), held);
      }
      gesture.current.move(hover.current, held);
    }
    const isFree = !gesture.current;
    const overCorner = isFree && (lineHandleAt(screenPoint) ?? cornerAt(screenPoint)) !== undefined;
    const free =
      gesture.current || bench.runOnWanted
        ? undefined
        : kindView?.hand?.cursor?.(screenPoint, hover.current, handInput());
    canvasRef.current!.style.cursor = keys.spaceHeld.current ? 'grab' : overCorner ? 'pointer' : (free ?? 'crosshair');
    schedule();
  };

  const finish = (ends: boolean): void => {
    panning.current = undefined;
    const current = gesture.current;
    if (ends && current?.goesOn?.()) return;
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
        onDoubleClick={(event) => {
          const piece = isMarked(draft) ? undefined : pieceAt(screenToPhoto(view.get(), localPoint(event)));
          if (piece) dispatch(benchActions.stepOpened(piece));
        }}
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
