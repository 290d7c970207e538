import { FingoError } from '../errors.ts';
import { createMask, type Mask } from './mask.ts';

export interface BrushTip {
  radiusPx: number;
  /** 0 = soft from the centre on, 1 = a hard rim (one pixel of anti-aliasing). */
  hardness: number;
  /** Strength of the stroke, 0 to 1. */
  intensity: number;
}

/**
 * Coverage of one brush stroke on a `width` x `height` grid: a pixel's value depends on its distance to the stroke's
 * polyline (full inside hardness x radius, smoothstep to 0 at the radius), so that a stroke over itself does not get
 * denser. `points` is x0, y0, x1, y1, ...; a single point gives a dab. Throws `out-of-range` for a radius that is not
 * above 0. O(segments x box of each segment).
 */
export function rasteriseStroke(points: readonly number[], tip: BrushTip, width: number, height: number): Mask {
  if (!(tip.radiusPx > 0)) throw new FingoError('out-of-range', 'The brush size must be above 0 px.');
  const mask = createMask(width, height);
  const count = points.length >> 1;
  const table = falloffTable(tip);
  for (let i = 0; i < count; i++) {
    const j = Math.min(count - 1, i + 1);
    if (i > 0 && j === i) break;
    stampSegment(mask, points[2 * i]!, points[2 * i + 1]!, points[2 * j]!, points[2 * j + 1]!, tip.radiusPx, table);
  }
  return mask;
}

const TABLE_STEPS = 512;

/** Coverage by distance, sampled at k / TABLE_STEPS of (radius + .5 px). */
function falloffTable({ radiusPx, hardness, intensity }: BrushTip): Uint8Array {
  const reach = radiusPx + 0.5;
  const inner = Math.min(radiusPx * Math.max(0, Math.min(1, hardness)), radiusPx - 0.5);
  const table = new Uint8Array(TABLE_STEPS + 1);
  for (let k = 0; k <= TABLE_STEPS; k++) {
    const distance = (k / TABLE_STEPS) * reach;
    const t = Math.max(0, Math.min(1, (distance - inner) / (reach - inner)));
    table[k] = Math.round(255 * Math.max(0, Math.min(1, intensity)) * (1 - t * t * (3 - 2 * t)));
  }
  return table;
}

function stampSegment(
  mask: Mask,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  radiusPx: number,
  table: Uint8Array,
): void {
  const reach = radiusPx + 0.5;
  const x0 = Math.max(0, Math.floor(Math.min(ax, bx) - reach));
  const x1 = Math.min(mask.width, Math.ceil(Math.max(ax, bx) + reach));
  const y0 = Math.max(0, Math.floor(Math.min(ay, by) - reach));
  const y1 = Math.min(mask.height, Math.ceil(Math.max(ay, by) + reach));
  const dx = bx - ax;
  const dy = by - ay;
  const lengthSquared = dx * dx + dy * dy;
  const toStep = TABLE_STEPS / reach;
  for (let y = y0; y < y1; y++) {
    const row = y * mask.width;
    const py = y + 0.5 - ay;
    for (let x = x0; x < x1; x++) {
      const px = x + 0.5 - ax;
      const t = lengthSquared > 0 ? Math.max(0, Math.min(1, (px * dx + py * dy) / lengthSquared)) : 0;
      const ex = px - t * dx;
      const ey = py - t * dy;
      const step = Math.sqrt(ex * ex + ey * ey) * toStep;
      if (step >= TABLE_STEPS) continue;
      const value = table[step | 0]!;
      if (value > mask.data[row + x]!) mask.data[row + x] = value;
    }
  }
}
