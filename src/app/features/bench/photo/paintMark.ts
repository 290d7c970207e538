import { applyAffine, type Affine } from '../../../../core/image/affine.ts';
import type { MarkOutline } from '../../../../operations/marks/outlineMark.ts';
import { photoToScreen, type Viewport } from './viewport.ts';

const HATCH_PX = 9;

/** Closed rings of photo points as a path in CSS px of the screen. */
export function ringsToPath(rings: readonly number[][], view: Viewport, through?: Affine): Path2D {
  const path = new Path2D();
  for (const ring of rings) {
    for (let i = 0; i + 1 < ring.length; i += 2) {
      const at = through ? applyAffine(through, ring[i]!, ring[i + 1]!) : { x: ring[i]!, y: ring[i + 1]! };
      const screen = photoToScreen(view, at);
      if (i === 0) path.moveTo(screen.x, screen.y);
      else path.lineTo(screen.x, screen.y);
    }
    path.closePath();
  }
  return path;
}

/** Photo points, one after the other, as an open path in CSS px of the screen. */
export function lineToPath(points: readonly number[], view: Viewport): Path2D {
  const path = new Path2D();
  for (let i = 0; i + 1 < points.length; i += 2) {
    const at = photoToScreen(view, { x: points[i]!, y: points[i + 1]! });
    if (i === 0) path.moveTo(at.x, at.y);
    path.lineTo(at.x, at.y);
  }
  return path;
}

/**
 * A mark: diagonal hatch (sparser where it is faint) inside a double outline that is seen on any picture. Of a mark whose
 * subject is known only the slack around it is hatched.
 */
export function paintMark(
  context: CanvasRenderingContext2D,
  outline: MarkOutline,
  view: Viewport,
  subject: MarkOutline | undefined,
): void {
  const solid = ringsToPath(outline.solid, view);
  const faint = ringsToPath(outline.faint, view);
  if (subject) {
    hatch(context, ringsToPath([...outline.solid, ...subject.solid], view), HATCH_PX);
    thinOutline(context, ringsToPath(subject.solid, view));
  } else {
    hatch(context, faint, 2 * HATCH_PX);
    hatch(context, solid, HATCH_PX);
  }
  doubleOutline(context, outline.solid.length > 0 ? solid : faint);
}

/** A line of dark and light dashes. */
function thinOutline(context: CanvasRenderingContext2D, path: Path2D): void {
  context.lineWidth = 1.25;
  context.strokeStyle = 'rgba(0, 0, 0, 0.8)';
  context.stroke(path);
  context.setLineDash([4, 4]);
  context.strokeStyle = 'rgba(255, 255, 255, 0.95)';
  context.stroke(path);
  context.setLineDash([]);
}

/** A dark line with a light one inside, on whatever lies below. */
export function doubleOutline(context: CanvasRenderingContext2D, path: Path2D): void {
  context.lineJoin = 'round';
  context.strokeStyle = 'rgba(0, 0, 0, 0.85)';
  context.lineWidth = 3.5;
  context.stroke(path);
  context.strokeStyle = 'rgba(255, 255, 255, 0.95)';
  context.lineWidth = 1.5;
  context.stroke(path);
}

function hatch(context: CanvasRenderingContext2D, path: Path2D, spacing: number): void {
  context.save();
  context.clip(path, 'evenodd');
  const { width, height } = context.canvas;
  const lines = new Path2D();
  for (let offset = -height; offset < width; offset += spacing) {
    lines.moveTo(offset, 0);
    lines.lineTo(offset + height, height);
  }
  context.lineWidth = 2;
  context.strokeStyle = 'rgba(0, 0, 0, 0.28)';
  context.stroke(lines);
  context.lineWidth = 1;
  context.strokeStyle = 'rgba(255, 255, 255, 0.8)';
  context.stroke(lines);
  context.restore();
}
