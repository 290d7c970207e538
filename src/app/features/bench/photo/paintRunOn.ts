import { linePath } from '../../../../core/lines/runOnLine.ts';
import type { RunOnParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import { handlesOf, linesInSight } from '../runOn.ts';
import { doubleOutline } from './paintMark.ts';
import type { BenchScene } from './scene.ts';
import { photoToScreen, type Point, type Viewport } from './viewport.ts';

/** Radii of a line's points and of the places between them, CSS px. */
export const POINT_PX = 5;
const BETWEEN_PX = 3;
/** Both sides of a line are seen at least so far apart, CSS px. */
const LEAST_APART_PX = 3;

/** Lines that run on, as two fine lines each, with their points where they can be taken hold of. */
export function paintRunOn(context: CanvasRenderingContext2D, scene: BenchScene): void {
  if (!scene.runOnShown) return;
  const { draft, desk, live, view } = scene;
  const lines = live?.kind === 'runOn' ? live.lines : linesInSight(draft, desk);
  for (const [index, line] of lines.entries()) {
    const sides = sidesOf(line, view);
    context.save();
    if (!line.on) {
      context.globalAlpha = 0.55;
      context.setLineDash([5, 5]);
    }
    for (const side of line.on ? sides : sides.slice(0, 1)) fineLine(context, side);
    context.restore();
    for (const { at, isNew } of handlesOf(line, index)) {
      if (!line.on || (isNew && index !== scene.runOnInHand)) continue;
      const disc = new Path2D();
      const { x, y } = photoToScreen(view, at);
      disc.arc(x, y, isNew ? BETWEEN_PX : POINT_PX, 0, 2 * Math.PI);
      context.fillStyle = isNew ? 'rgba(20, 20, 20, 0.75)' : 'rgba(255, 255, 255, 0.95)';
      context.fill(disc);
      if (isNew) doubleOutline(context, disc);
      else darkOutline(context, disc);
    }
    if (line.on) paintNumber(context, index + 1, photoToScreen(view, line.points[0]!), index === scene.runOnInHand);
  }
}

/** Both sides of a line on the screen. */
function sidesOf({ points, widthsPx: [first, last] }: RunOnParams, view: Viewport): Path2D[] {
  const path = linePath(points, 2 / view.scale).map((p) => photoToScreen(view, p));
  return [-0.5, 0.5].map((share) => {
    const side = new Path2D();
    for (const [k, p] of path.entries()) {
      const [a, b] = [path[Math.max(0, k - 1)]!, path[Math.min(path.length - 1, k + 1)]!];
      const size = Math.hypot(b.x - a.x, b.y - a.y) || 1;
      const width = view.scale * (first + ((last - first) * k) / (path.length - 1));
      const by = share * Math.max(LEAST_APART_PX, width);
      const at = { x: p.x - (by * (b.y - a.y)) / size, y: p.y + (by * (b.x - a.x)) / size };
      if (k === 0) side.moveTo(at.x, at.y);
      else side.lineTo(at.x, at.y);
    }
    return side;
  });
}

function fineLine(context: CanvasRenderingContext2D, path: Path2D): void {
  context.strokeStyle = 'rgba(0, 0, 0, 0.7)';
  context.lineWidth = 2.5;
  context.stroke(path);
  context.strokeStyle = 'rgba(255, 255, 255, 0.95)';
  context.lineWidth = 1;
  context.stroke(path);
}

function darkOutline(context: CanvasRenderingContext2D, path: Path2D): void {
  context.strokeStyle = 'rgba(0, 0, 0, 0.85)';
  context.lineWidth = 1.5;
  context.stroke(path);
}

function paintNumber(context: CanvasRenderingContext2D, number: number, { x, y }: Point, isInHand: boolean): void {
  context.font = '600 11px "Red Hat Mono Variable", monospace';
  const { width } = context.measureText(String(number));
  context.fillStyle = isInHand ? 'rgba(255, 255, 255, 0.95)' : 'rgba(20, 20, 20, 0.75)';
  context.fillRect(x + 8, y - 18, width + 8, 15);
  context.fillStyle = isInHand ? '#141414' : '#fff';
  context.fillText(String(number), x + 12, y - 7);
}
