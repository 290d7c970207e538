import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { useDrag } from '@use-gesture/react';
import { useEffect, useRef, useState } from 'react';
import type { Point } from '../../../core/geometry/homography.ts';
import { unite, type Rect, type Size } from '../../../core/image/rect.ts';
import { inverseRotation, turnDirection } from '../../../core/panorama/camera.ts';
import { directionAt } from '../../../core/panorama/projection.ts';
import { turnForLine } from '../../../core/panorama/straighten.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { KILN } from '../../theme/theme.ts';
import { dragCrop, HANDLES, type Handle } from './cropRect.ts';
import { stitchActions } from './stitchSlice.ts';
import type { PanoramaShown } from './stitchDesk.ts';

const MARGIN_PX = 28;
const HANDLE_PX = 7;
/** A handle can be taken by a pen too. */
const REACH_PX = 20;

/** The panorama with its crop: handles, a line to level by, strokes that pull a frame in front. */
export function PanoramaView({ shown }: { shown: PanoramaShown }) {
  const dispatch = useAppDispatch();
  const { palette } = useTheme();
  const {
    crop: chosen,
    hand,
    seamsShown,
    settings,
    pulledFrame,
    pullRadiusPx,
  } = useAppSelector((state) => state.stitch);
  const { layout, overview, seams, ghosts } = shown;
  const crop = chosen ?? layout.bounds;
  const [box, size] = useSize();
  const [drawn, setDrawn] = useState<Point[]>([]);
  // What is in sight does not move while the hand drags the crop.
  const [held, setHeld] = useState<Rect>();
  const sight = held ?? unite(layout.bounds, crop);
  const scale = Math.min(
    Math.max(1, size.width - 2 * MARGIN_PX) / sight.width,
    Math.max(1, size.height - 2 * MARGIN_PX) / sight.height,
  );
  const left = (size.width - scale * sight.width) / 2 - scale * sight.x;
  const top = (size.height - scale * sight.height) / 2 - scale * sight.y;
  const toScreen = (rect: Rect): Rect => ({
    x: left + scale * rect.x,
    y: top + scale * rect.y,
    width: scale * rect.width,
    height: scale * rect.height,
  });
  const bind = useDrag(({ first, last, xy: [x, y], initial: [x0, y0], memo, event }) => {
    const frame = box.current!.getBoundingClientRect();
    const place = (sx: number, sy: number): Point => ({
      x: (sx - frame.left - left) / scale,
      y: (sy - frame.top - top) / scale,
    });
    if (hand === 'crop') {
      const start = (memo as { crop: Rect; handle: Handle } | undefined) ?? {
        crop,
        handle: handleOf(event.target as Element),
      };
      if (first) setHeld(sight);
      dispatch(stitchActions.cropped(dragCrop(start.crop, start.handle, (x - x0) / scale, (y - y0) / scale)));
      if (last) {
        setHeld(undefined);
        dispatch(stitchActions.gestureEnded());
      }
      return start;
    }
    const points = hand === 'line' ? [place(x0, y0), place(x, y)] : [...(first ? [] : drawn), place(x, y)];
    setDrawn(last ? [] : points);
    if (!last) return undefined;
    const directions = points.map((point) => directionAt(layout.projection, point.x, point.y));
    if (hand === 'pull') {
      dispatch(
        stitchActions.pulled({
          frame: pulledFrame,
          path: directions.map((direction) => turnDirection(direction, inverseRotation(settings.turn))),
          radiusRad: pullRadiusPx / layout.projection.scale,
        }),
      );
    } else if (Math.hypot(x - x0, y - y0) > 8) {
      dispatch(stitchActions.turned(turnForLine(directions[0]!, directions.at(-1)!)));
    }
    return undefined;
  });
  const picture = toScreen(layout.bounds);
  const cut = toScreen(crop);
  return (
    <Box
      ref={box}
      {...bind()}
      sx={{ position: 'absolute', inset: 0, touchAction: 'none', cursor: hand === 'crop' ? 'move' : 'crosshair' }}
    >
      <Layer bitmap={overview} place={picture} label="The panorama" />
      {seamsShown && <Layer bitmap={seams} place={picture} />}
      <svg width={size.width} height={size.height} style={{ position: 'absolute', inset: 0 }} aria-hidden>
        <path
          fillRule="evenodd"
          fill={palette.background.default}
          opacity={0.7}
          d={`M0 0H${size.width}V${size.height}H0Z M${cut.x} ${cut.y}h${cut.width}v${cut.height}h${-cut.width}Z`}
        />
        <rect {...cut} fill="transparent" stroke="#111" strokeWidth={3} />
        <rect {...cut} fill="none" stroke="#fff" strokeWidth={1} />
        {seamsShown &&
          ghosts.map((ghost, k) => (
            <g key={k} transform={`translate(${left + scale * ghost.x} ${top + scale * ghost.y})`}>
              <circle r={10} fill={KILN.paper} stroke="#fff" strokeWidth={1.5} />
              <text textAnchor="middle" dy="4" fontSize={12} fill="#fff">
                {k + 1}
              </text>
            </g>
          ))}
        {hand === 'crop' &&
          HANDLES.map(({ x, y }) => (
            <g
              key={`${x} ${y}`}
              transform={`translate(${cut.x + (cut.width * (1 + x)) / 2} ${cut.y + (cut.height * (1 + y)) / 2})`}
            >
              <circle r={HANDLE_PX} fill="#fff" stroke="#111" strokeWidth={1.5} />
              <circle
                r={REACH_PX}
                fill="transparent"
                data-handle={`${x} ${y}`}
                style={{ cursor: cursorOf({ x, y }) }}
              />
            </g>
          ))}
        {drawn.length > 0 && (
          <polyline
            points={drawn.map(({ x, y }) => `${left + scale * x},${top + scale * y}`).join(' ')}
            fill="none"
            stroke={palette.primary.main}
            strokeLinecap="round"
            strokeLinejoin="round"
            strokeWidth={hand === 'pull' ? Math.max(2, 2 * scale * pullRadiusPx) : 2}
            opacity={hand === 'pull' ? 0.5 : 1}
          />
        )}
      </svg>
    </Box>
  );
}

function handleOf(target: Element): Handle {
  const [x, y] = (target.getAttribute('data-handle') ?? '0 0').split(' ').map(Number);
  return { x, y } as Handle;
}

const cursorOf = ({ x, y }: Handle): string =>
  x === 0 ? 'ns-resize' : y === 0 ? 'ew-resize' : x === y ? 'nwse-resize' : 'nesw-resize';

function useSize() {
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<Size>({ width: 1, height: 1 });
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width, height });
    });
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  return [box, size] as const;
}

function Layer({ bitmap, place, label }: { bitmap: ImageBitmap; place: Rect; label?: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const to = canvas.current!;
    to.width = bitmap.width;
    to.height = bitmap.height;
    to.getContext('2d')!.drawImage(bitmap, 0, 0);
  }, [bitmap]);
  return (
    <canvas
      ref={canvas}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
      style={{ position: 'absolute', left: place.x, top: place.y, width: place.width, height: place.height }}
    />
  );
}
