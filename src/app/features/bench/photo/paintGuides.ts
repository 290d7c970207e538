import type { Rect, Size } from '../../../../core/image/rect.ts';
import { applyHomography, isConvexQuad, squareToQuad } from '../../../../core/geometry/homography.ts';
import type { MarkOutline } from '../../../../operations/marks/outlineMark.ts';
import type { RebuildReport } from '../../../../operations/computation.ts';
import type { PlaneParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import { OCHRE } from '../../../theme/theme.ts';
import { doubleOutline, ringsToPath } from './paintMark.ts';
import { photoToScreen, type Viewport } from './viewport.ts';

const DOT_SPACING_PX = 7;
const DOT_PX = 2.5;
const GRID_LINES = 8;
/** Radius of a plane's corner, CSS px. */
export const CORNER_PX = 7;

/** Where new pixels may come from: a dot screen inside a thin outline. */
export function paintDonors(context: CanvasRenderingContext2D, outline: MarkOutline, view: Viewport): void {
  const path = ringsToPath(outline.solid, view);
  screenOfDots(context, path);
  outlined(context, path);
}

/** Where the pixels of a take were copied from, as squares of the same screen. */
export function paintUsed(context: CanvasRenderingContext2D, used: RebuildReport['used'], view: Viewport): void {
  const path = new Path2D();
  const edges = new Path2D();
  const side = used.side * view.scale;
  const isUsed = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < used.width && y < used.height && used.cells[y * used.width + x] === 1;
  for (let y = 0; y < used.height; y++) {
    for (let x = 0; x < used.width; x++) {
      if (!isUsed(x, y)) continue;
      const at = photoToScreen(view, { x: used.x + x * used.side, y: used.y + y * used.side });
      path.rect(at.x, at.y, side, side);
      const edge = (dx: number, dy: number, x0: number, y0: number, x1: number, y1: number): void => {
        if (isUsed(x + dx, y + dy)) return;
        edges.moveTo(at.x + x0 * side, at.y + y0 * side);
        edges.lineTo(at.x + x1 * side, at.y + y1 * side);
      };
      edge(0, -1, 0, 0, 1, 0);
      edge(0, 1, 0, 1, 1, 1);
      edge(-1, 0, 0, 0, 0, 1);
      edge(1, 0, 1, 0, 1, 1);
    }
  }
  screenOfDots(context, path);
  outlined(context, edges);
}

function screenOfDots(context: CanvasRenderingContext2D, path: Path2D): void {
  context.save();
  context.clip(path, 'evenodd');
  const { a: pixelRatio } = context.getTransform();
  const width = context.canvas.width / pixelRatio;
  const height = context.canvas.height / pixelRatio;
  context.beginPath();
  for (let y = 0, row = 0; y < height; y += DOT_SPACING_PX, row++) {
    for (let x = row % 2 ? DOT_SPACING_PX / 2 : 0; x < width; x += DOT_SPACING_PX) context.rect(x, y, DOT_PX, DOT_PX);
  }
  context.fillStyle = OCHRE;
  context.fill();
  context.restore();
}

function outlined(context: CanvasRenderingContext2D, path: Path2D): void {
  context.strokeStyle = 'rgba(0, 0, 0, 0.6)';
  context.lineWidth = 2.5;
  context.stroke(path);
  context.strokeStyle = OCHRE;
  context.lineWidth = 1.25;
  context.stroke(path);
}

/** A plane: a thin grid in its perspective, with four corners to take hold of; only outlined while it is off. */
export function paintPlane(context: CanvasRenderingContext2D, { corners, on }: PlaneParams, view: Viewport): void {
  const path = new Path2D();
  const line = (from: { x: number; y: number }, to: { x: number; y: number }): void => {
    const [a, b] = [photoToScreen(view, from), photoToScreen(view, to)];
    path.moveTo(a.x, a.y);
    path.lineTo(b.x, b.y);
  };
  corners.forEach((corner, k) => line(corner, corners[(k + 1) % 4]!));
  if (on && isConvexQuad(corners)) {
    const fromSquare = squareToQuad(corners);
    for (let k = 1; k < GRID_LINES; k++) {
      const t = k / GRID_LINES;
      line(applyHomography(fromSquare, t, 0), applyHomography(fromSquare, t, 1));
      line(applyHomography(fromSquare, 0, t), applyHomography(fromSquare, 1, t));
    }
  }
  for (const [style, width] of [
    ['rgba(0, 0, 0, 0.55)', 2.5],
    ['rgba(255, 255, 255, 0.9)', 1],
  ] as const) {
    context.strokeStyle = style;
    context.lineWidth = width;
    context.stroke(path);
  }
  for (const corner of corners) {
    const at = photoToScreen(view, corner);
    const disc = new Path2D();
    disc.arc(at.x, at.y, CORNER_PX, 0, 2 * Math.PI);
    context.fillStyle = 'rgba(255, 255, 255, 0.95)';
    context.fill(disc);
    context.strokeStyle = 'rgba(0, 0, 0, 0.85)';
    context.lineWidth = 1.5;
    context.stroke(disc);
  }
}

/** Something painted beside the mark: its outline with its name. */
export function paintNamed(
  context: CanvasRenderingContext2D,
  outline: MarkOutline,
  view: Viewport,
  name: string,
): void {
  const path = ringsToPath(outline.solid.length > 0 ? outline.solid : outline.faint, view);
  context.save();
  context.setLineDash([7, 4]);
  doubleOutline(context, path);
  context.restore();
  if (outline.box.width > 0) paintLabel(context, name, outline.box, view, { dxPx: 0, dyPx: 0 });
}

/** A name at the top left corner of a box of the photo, shifted. */
export function paintLabel(
  context: CanvasRenderingContext2D,
  text: string,
  box: Rect,
  view: Viewport,
  { dxPx, dyPx }: { dxPx: number; dyPx: number },
): void {
  const at = photoToScreen(view, { x: box.x + dxPx, y: box.y + dyPx });
  context.font = LABEL_FONT;
  const { width } = context.measureText(text);
  context.fillStyle = 'rgba(20, 20, 20, 0.8)';
  context.fillRect(at.x, at.y - 20, width + 12, 18);
  context.fillStyle = '#fff';
  context.fillText(text, at.x + 6, at.y - 7);
}

const LABEL_FONT = '12px "Hanken Grotesk Variable", sans-serif';

/** The horizon by which sizes follow the ground, with its handle. */
export function paintHorizon(context: CanvasRenderingContext2D, y: number, photo: Size, view: Viewport): void {
  const from = photoToScreen(view, { x: 0, y });
  const to = photoToScreen(view, { x: photo.width, y });
  const line = new Path2D();
  line.moveTo(from.x, from.y);
  line.lineTo(to.x, to.y);
  context.save();
  context.setLineDash([10, 5]);
  doubleOutline(context, line);
  context.restore();
  paintLabel(context, 'Horizon: drag it', { x: 0, y, width: 0, height: 0 }, view, { dxPx: 12 / view.scale, dyPx: 0 });
}
