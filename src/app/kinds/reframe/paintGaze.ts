import type { Fixation } from '../../../core/measures/gaze.ts';
import { doubleOutline } from '../../features/bench/photo/paintMark.ts';
import { photoToScreen, type Point, type Viewport } from '../../features/bench/photo/viewport.ts';

const LARGEST_PX = 19;
const SMALLEST_PX = 11;

/** Where the eye goes: numbered rings, larger where it is drawn more strongly, joined in their order. */
export function paintGaze(
  context: CanvasRenderingContext2D,
  fixations: readonly Fixation[],
  view: Viewport,
  toView: (point: Point) => Point,
): void {
  const places = fixations.map((fixation) => ({
    at: photoToScreen(view, toView(fixation)),
    radius: SMALLEST_PX + fixation.strength * (LARGEST_PX - SMALLEST_PX),
  }));
  const path = new Path2D();
  places.forEach(({ at }, k) => (k === 0 ? path.moveTo(at.x, at.y) : path.lineTo(at.x, at.y)));
  doubleOutline(context, path);
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  context.font = '600 13px "Red Hat Mono Variable", monospace';
  places.forEach(({ at, radius }, k) => {
    const ring = new Path2D();
    ring.arc(at.x, at.y, radius, 0, 2 * Math.PI);
    context.fillStyle = 'rgba(20, 20, 20, 0.75)';
    context.fill(ring);
    doubleOutline(context, ring);
    context.fillStyle = '#fff';
    context.fillText(String(k + 1), at.x, at.y + 1);
  });
  context.textAlign = 'start';
  context.textBaseline = 'alphabetic';
}
