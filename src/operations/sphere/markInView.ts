import type { Size } from '../../core/image/rect.ts';
import { createMask, type Mask } from '../../core/mask/mask.ts';
import { viewAround } from '../../core/sphere/viewAround.ts';
import { viewToSphere, type SphereView } from '../../core/sphere/sphereView.ts';
import type { Mark } from '../marks/markSchema.ts';
import { markFromMask, renderMark, type PlacedMask } from '../marks/renderMark.ts';
import { shiftMark } from '../marks/followMark.ts';
import { requireSphere } from './requireSphere.ts';

/** So many points at most tell where a mark lies. */
const MAX_POINTS = 40_000;

/**
 * A mark on the flat picture of a sphere, as a mark in the direct view that suits it. Left and right edge are
 * neighbours: what runs past the one comes in at the other. Throws `not-a-sphere`, `nothing-marked`, and `out-of-range`
 * for a mark too wide for one view.
 */
export function viewOfMark(mark: Mark, sphere: Size): { view: SphereView; mark: Mark } {
  requireSphere(sphere);
  const placed = roundTheSphere(mark, sphere);
  const view = viewAround(pointsOf(placed), sphere);
  return { view, mark: markFromMask(maskInView(placed, view, sphere)) };
}

/** The mask of a mark in px of the sphere, on a picture that goes on for half a turn to either side. */
function roundTheSphere(mark: Mark, { width, height }: Size): PlacedMask {
  const { rect, mask } = renderMark(shiftMark(mark, width / 2, 0), { width: 2 * width, height });
  return { rect: { ...rect, x: rect.x - width / 2 }, mask };
}

function pointsOf({ rect, mask }: PlacedMask): number[] {
  const step = Math.max(1, Math.ceil(Math.sqrt((rect.width * rect.height) / MAX_POINTS)));
  const points: number[] = [];
  for (let y = 0; y < mask.height; y += step) {
    for (let x = 0; x < mask.width; x += step) {
      if (mask.data[y * mask.width + x]) points.push(rect.x + x + 0.5, rect.y + y + 0.5);
    }
  }
  return points;
}

function maskInView(placed: PlacedMask, view: SphereView, sphere: Size): Mask {
  const out = createMask(view.width, view.height);
  const back = viewToSphere(view, sphere);
  const line = new Float64Array(2 * view.width);
  for (let y = 0; y < view.height; y++) {
    for (let x = 0; x < view.width; x++) {
      line[2 * x] = x + 0.5;
      line[2 * x + 1] = y + 0.5;
    }
    back(line, view.width);
    for (let x = 0; x < view.width; x++) {
      out.data[y * view.width + x] = coverageAt(placed, line[2 * x]!, line[2 * x + 1]!, sphere);
    }
  }
  return out;
}

/** The coverage at a point of the sphere, between its four nearest px, wherever round the sphere it was marked. */
function coverageAt({ rect, mask }: PlacedMask, x: number, y: number, { width, height }: Size): number {
  const at = (column: number, row: number): number =>
    column >= 0 && row >= 0 && column < mask.width && row < mask.height ? mask.data[row * mask.width + column]! : 0;
  let most = 0;
  for (let turn = -1; turn <= 1; turn++) {
    const u = x - 0.5 - rect.x + turn * width;
    if (u <= -1 || u >= mask.width) continue;
    const v = Math.max(0, Math.min(height - 1, y - 0.5)) - rect.y;
    const [column, row] = [Math.floor(u), Math.floor(v)];
    const [fx, fy] = [u - column, v - row];
    const above = at(column, row) + fx * (at(column + 1, row) - at(column, row));
    const below = at(column, row + 1) + fx * (at(column + 1, row + 1) - at(column, row + 1));
    most = Math.max(most, above + fy * (below - above));
  }
  return Math.round(most);
}
