import { uprightCorners, type FrameGeometry } from '../../../core/geometry/frameGeometry.ts';
import type { Rect, Size } from '../../../core/image/rect.ts';
import type { Overlays } from '../../state/benchState.ts';
import type { FrameGrip } from './dragFrame.ts';
import { KILN } from '../../theme/theme.ts';
import { doubleOutline } from '../../features/bench/photo/paintMark.ts';
import { photoToScreen, type Point, type Viewport } from '../../features/bench/photo/viewport.ts';

/** Every part of a frame that can be taken hold of, corners first. */
const GRIPS: readonly FrameGrip[] = [
  { x: -1, y: -1 },
  { x: 1, y: -1 },
  { x: 1, y: 1 },
  { x: -1, y: 1 },
  { x: 0, y: -1 },
  { x: 1, y: 0 },
  { x: 0, y: 1 },
  { x: -1, y: 0 },
];
const GRIP_PX = 6;
/** How near the pen must come, CSS px. */
const REACH_PX = 14;
const GOLDEN = (3 - Math.sqrt(5)) / 2;

/** What of a frame lies under a screen point: a grip, its edge, or its inside. */
export function gripAt(rect: Rect, view: Viewport, screenPoint: Point): FrameGrip | undefined {
  for (const grip of GRIPS) {
    const at = photoToScreen(view, gripPoint(rect, grip));
    if (Math.hypot(at.x - screenPoint.x, at.y - screenPoint.y) <= REACH_PX) return grip;
  }
  const [a, b] = cornersOnScreen(rect, view);
  const near = (value: number, edge: number): boolean => Math.abs(value - edge) <= REACH_PX / 2;
  const isBeside = screenPoint.y > a.y && screenPoint.y < b.y;
  const isOver = screenPoint.x > a.x && screenPoint.x < b.x;
  if (isBeside && near(screenPoint.x, a.x)) return { x: -1, y: 0 };
  if (isBeside && near(screenPoint.x, b.x)) return { x: 1, y: 0 };
  if (isOver && near(screenPoint.y, a.y)) return { x: 0, y: -1 };
  if (isOver && near(screenPoint.y, b.y)) return { x: 0, y: 1 };
  return isBeside && isOver ? { x: 0, y: 0 } : undefined;
}

/** The pointer over a grip. */
export function cursorOf(grip: FrameGrip | undefined): string {
  if (!grip) return 'default';
  if (grip.x === 0 && grip.y === 0) return 'move';
  if (grip.y === 0) return 'ew-resize';
  if (grip.x === 0) return 'ns-resize';
  return grip.x === grip.y ? 'nwse-resize' : 'nesw-resize';
}

/** The ground of a frame that is not yet rebuilt: a plain neutral tone. */
export function paintVacancy(context: CanvasRenderingContext2D, rect: Rect, view: Viewport): void {
  const [a, b] = cornersOnScreen(rect, view);
  context.fillStyle = '#8f8f8f';
  context.fillRect(a.x, a.y, b.x - a.x, b.y - a.y);
}

interface FrameScene {
  frame: FrameGeometry;
  photo: Size;
  view: Viewport;
  screen: Size;
  /** Undefined while everything over the picture is hidden. */
  overlays: Overlays | undefined;
  /** Whether what is in sight is the finished frame; then nothing is drawn into it but what helps to compose. */
  isMade: boolean;
  /** While it is dragged, lines to judge by are drawn even where none are chosen. */
  isDragged: boolean;
}

/** The frame over the picture: the photo outside it darkened, its edge with grips, what helps to compose, its size. */
export function paintFrame(context: CanvasRenderingContext2D, scene: FrameScene): void {
  const { frame, view, screen, overlays, isMade, isDragged } = scene;
  const [a, b] = cornersOnScreen(frame.rect, view);
  if (!isMade) paintOutside(context, scene, a, b);
  if (overlays) paintOverlays(context, a, b, overlays, isDragged);
  const edge = new Path2D();
  edge.rect(a.x, a.y, b.x - a.x, b.y - a.y);
  doubleOutline(context, edge);
  for (const grip of GRIPS) {
    const at = photoToScreen(view, gripPoint(frame.rect, grip));
    context.fillStyle = '#fff';
    context.strokeStyle = 'rgba(0, 0, 0, 0.85)';
    context.lineWidth = 1.5;
    context.beginPath();
    context.arc(at.x, at.y, GRIP_PX, 0, 2 * Math.PI);
    context.fill();
    context.stroke();
  }
  const text = `${frame.rect.width} x ${frame.rect.height} px`;
  context.font = '12px "Red Hat Mono Variable", monospace';
  const { width } = context.measureText(text);
  const left = Math.max(6, Math.min(screen.width - width - 20, (a.x + b.x) / 2 - width / 2 - 6));
  const top = b.y + 12 + 18 < screen.height ? b.y + 12 : b.y - 32;
  context.fillStyle = 'rgba(20, 20, 20, 0.85)';
  context.fillRect(left, top, width + 12, 19);
  context.fillStyle = '#fff';
  context.fillText(text, left + 6, top + 14);
}

/** A thing at the photo's edge that may be drawn outward: its stretch of the edge, in the colour of what needs care. */
export function paintAtEdge(context: CanvasRenderingContext2D, rect: Rect, view: Viewport): void {
  const [a, b] = cornersOnScreen(rect, view);
  context.save();
  context.setLineDash([6, 4]);
  for (const [style, lineWidth] of [
    ['rgba(255, 255, 255, 0.9)', 4],
    [KILN.paper, 2],
  ] as const) {
    context.strokeStyle = style;
    context.lineWidth = lineWidth;
    context.strokeRect(a.x, a.y, b.x - a.x, b.y - a.y);
  }
  context.restore();
}

/** What the frame leaves of the photo darkened, and the photo's own edge as a thin line. */
function paintOutside(
  context: CanvasRenderingContext2D,
  { frame, photo, view, screen }: FrameScene,
  a: Point,
  b: Point,
): void {
  const edge = new Path2D();
  for (const corner of uprightCorners(frame, photo)) {
    const at = photoToScreen(view, corner);
    edge.lineTo(at.x, at.y);
  }
  edge.closePath();
  const outside = new Path2D();
  outside.rect(0, 0, screen.width, screen.height);
  outside.rect(a.x, a.y, b.x - a.x, b.y - a.y);
  context.save();
  context.clip(outside, 'evenodd');
  context.fillStyle = 'rgba(24, 24, 24, 0.62)';
  context.fill(edge);
  context.restore();
  context.strokeStyle = 'rgba(255, 255, 255, 0.55)';
  context.lineWidth = 1;
  context.stroke(edge);
}

function paintOverlays(
  context: CanvasRenderingContext2D,
  a: Point,
  b: Point,
  { lines, safeShare }: Overlays,
  isDragged: boolean,
): void {
  const path = new Path2D();
  const [width, height] = [b.x - a.x, b.y - a.y];
  const line = (x0: number, y0: number, x1: number, y1: number): void => {
    path.moveTo(a.x + x0 * width, a.y + y0 * height);
    path.lineTo(a.x + x1 * width, a.y + y1 * height);
  };
  const kind = lines === 'none' && isDragged ? 'thirds' : lines;
  const shares = kind === 'thirds' ? [1 / 3, 2 / 3] : kind === 'golden' ? [GOLDEN, 1 - GOLDEN] : [];
  for (const share of kind === 'centre' ? [0.5] : shares) {
    line(share, 0, share, 1);
    line(0, share, 1, share);
  }
  if (kind === 'diagonals') {
    line(0, 0, 1, 1);
    line(1, 0, 0, 1);
  }
  if (safeShare > 0) {
    const inset = safeShare * Math.min(width, height);
    path.rect(a.x + inset, a.y + inset, width - 2 * inset, height - 2 * inset);
  }
  for (const [style, lineWidth] of [
    ['rgba(0, 0, 0, 0.4)', 2],
    ['rgba(255, 255, 255, 0.75)', 0.75],
  ] as const) {
    context.strokeStyle = style;
    context.lineWidth = lineWidth;
    context.stroke(path);
  }
}

const gripPoint = (rect: Rect, { x, y }: FrameGrip): Point => ({
  x: rect.x + ((x + 1) / 2) * rect.width,
  y: rect.y + ((y + 1) / 2) * rect.height,
});

const cornersOnScreen = (rect: Rect, view: Viewport): [Point, Point] => [
  photoToScreen(view, rect),
  photoToScreen(view, { x: rect.x + rect.width, y: rect.y + rect.height }),
];
