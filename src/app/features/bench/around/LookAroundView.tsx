import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import { useCallback, useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Size } from '../../../../core/image/rect.ts';
import { useAppSelector } from '../../../store/store.ts';
import { SURROUNDS } from '../../../theme/viewSettings.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';
import { doubleOutline } from '../photo/paintMark.ts';
import type { LookControl } from './lookControl.ts';
import { dragged, turned, type Direction } from './looking.ts';
import { createSphereScene, type SphereScene } from './sphereScene.ts';

/** The picture that is laid onto the sphere; finer ones than twice this no graphics unit is asked to take. */
const PICTURE_PX = 4096;
const KEY_DEGREES = 4;
const KEY_ZOOM = 1.15;
/** While the view moves it may be drawn coarser, down to this, so that it keeps up; finely once it rests. */
const COARSEST = 0.5;
const SLOW_FRAME_MS = 24;
const REST_MS = 140;

export interface Point {
  x: number;
  y: number;
}

interface LookAroundViewProps {
  look: LookControl;
  onResize: (screen: Size) => void;
  /** A line drawn on the view, in CSS px; without it a drag turns. */
  onLine?: ((from: Point, to: Point) => void) | undefined;
}

/** The sphere from its middle: drag to turn, wheel for the angle of view, arrow keys for both hands free. */
export function LookAroundView({ look, onResize, onLine }: LookAroundViewProps) {
  const { desk } = useBenchParts();
  const { source, base } = useDeskView();
  const surround = useAppSelector((state) => state.viewSettings.surround);
  const canvasRef = useRef<HTMLCanvasElement>(null);
  const linesRef = useRef<HTMLCanvasElement>(null);
  const scene = useRef<SphereScene | undefined>(undefined);
  const [state, setState] = useState<'waiting' | 'shown' | 'impossible'>('waiting');
  const [screen, setScreen] = useState<Size>({ width: 0, height: 0 });
  const hand = useRef<{ start: Point; last: Point } | undefined>(undefined);

  useEffect(() => {
    const canvas = canvasRef.current!;
    scene.current = createSphereScene(canvas);
    if (!scene.current) setState('impossible');
    const observer = new ResizeObserver(() => {
      const size = { width: canvas.clientWidth, height: canvas.clientHeight };
      setScreen(size);
      onResize(size);
    });
    observer.observe(canvas);
    return () => {
      observer.disconnect();
      scene.current?.close();
      scene.current = undefined;
    };
  }, [onResize]);

  useEffect(() => {
    let current = true;
    void desk.sphereShown(PICTURE_PX).then((bitmap) => {
      if (!current) return;
      scene.current?.setPicture(bitmap);
      setState((now) => (now === 'impossible' ? now : 'shown'));
      requestAnimationFrame(() => draw.current());
    });
    return () => {
      current = false;
    };
  }, [desk, source, base]);

  const fineness = useRef(1);
  const draw = useRef<() => void>(() => undefined);
  useEffect(() => {
    let frame = 0;
    let rest: ReturnType<typeof setTimeout> | undefined;
    draw.current = () => {
      if (screen.width > 0) scene.current?.draw(look.get(), screen, devicePixelRatio);
    };
    let drawnAt = -Infinity;
    const onTurn = (): void => {
      frame ||= requestAnimationFrame((now) => {
        frame = 0;
        const took = now - drawnAt;
        drawnAt = now;
        if (took < REST_MS)
          fineness.current = Math.max(
            COARSEST,
            Math.min(1, took > SLOW_FRAME_MS ? fineness.current * 0.85 : fineness.current * 1.02),
          );
        if (screen.width > 0) scene.current?.draw(look.get(), screen, fineness.current * devicePixelRatio);
      });
      clearTimeout(rest);
      rest = setTimeout(() => draw.current(), REST_MS);
    };
    if (state === 'shown') draw.current();
    const unsubscribe = look.subscribe(onTurn);
    return () => {
      unsubscribe();
      clearTimeout(rest);
      cancelAnimationFrame(frame);
    };
  }, [look, screen, state]);

  const paintLine = useCallback(
    (from?: Point, to?: Point) => {
      const canvas = linesRef.current!;
      canvas.width = Math.round(screen.width * devicePixelRatio);
      canvas.height = Math.round(screen.height * devicePixelRatio);
      const context = canvas.getContext('2d')!;
      context.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
      if (!from || !to) return;
      const path = new Path2D();
      path.moveTo(from.x, from.y);
      path.lineTo(to.x, to.y);
      doubleOutline(context, path);
    },
    [screen],
  );

  // A wheel listener that may keep the page from scrolling has to be added by hand.
  useEffect(() => {
    const canvas = canvasRef.current!;
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      look.set(turned(look.get(), { fov: look.get().fov * Math.exp(event.deltaY * 0.001) }));
    };
    canvas.addEventListener('wheel', onWheel, { passive: false });
    return () => canvas.removeEventListener('wheel', onWheel);
  }, [look]);

  const pointOf = (event: PointerEvent): Point => {
    const box = canvasRef.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const onPointerDown = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    canvasRef.current!.setPointerCapture(event.pointerId);
    hand.current = { start: pointOf(event), last: pointOf(event) };
  };
  const onPointerMove = (event: PointerEvent): void => {
    if (!hand.current) return;
    const at = pointOf(event);
    const { start, last } = hand.current;
    if (onLine) paintLine(start, at);
    else look.set(dragged(look.get(), at.x - last.x, at.y - last.y, screen.width));
    hand.current.last = at;
  };
  const onPointerUp = (ends: boolean): void => {
    const drawn = hand.current;
    hand.current = undefined;
    if (!onLine || !drawn) return;
    paintLine();
    if (ends && Math.hypot(drawn.last.x - drawn.start.x, drawn.last.y - drawn.start.y) > 10) {
      onLine(drawn.start, drawn.last);
    }
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const { yaw, pitch, fov } = look.get();
    const step = (event.shiftKey ? 4 : 1) * KEY_DEGREES;
    const change: Partial<Direction> | undefined = {
      ArrowLeft: { yaw: yaw - step },
      ArrowRight: { yaw: yaw + step },
      ArrowUp: { pitch: pitch + step },
      ArrowDown: { pitch: pitch - step },
      '+': { fov: fov / KEY_ZOOM },
      '-': { fov: fov * KEY_ZOOM },
      Home: { yaw: 0, pitch: 0 },
    }[event.key];
    if (!change) return;
    event.preventDefault();
    look.set(turned(look.get(), change));
  };

  return (
    <Box sx={{ position: 'relative', flex: 1, minWidth: 0, minHeight: 0, bgcolor: SURROUNDS[surround] }}>
      <canvas
        ref={canvasRef}
        role="application"
        aria-label="The sphere from its middle. Drag or use the arrow keys to turn, plus and minus for the angle of view."
        aria-roledescription="look-around"
        data-state={state}
        tabIndex={0}
        style={{
          position: 'absolute',
          inset: 0,
          width: '100%',
          height: '100%',
          touchAction: 'none',
          cursor: onLine ? 'crosshair' : 'grab',
        }}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={() => onPointerUp(true)}
        onPointerCancel={() => onPointerUp(false)}
        onKeyDown={onKeyDown}
      />
      <canvas
        ref={linesRef}
        aria-hidden
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', pointerEvents: 'none' }}
      />
      {state === 'impossible' && (
        <Alert severity="info" variant="outlined" sx={{ position: 'absolute', m: 3, bgcolor: 'background.paper' }}>
          This browser has no 3D drawing (WebGL), so the sphere can’t be turned by hand; set the direction by its angles
          and work in that view.
        </Alert>
      )}
    </Box>
  );
}
