import type { Rect } from '../image/rect.ts';
import type { Point } from './homography.ts';

/**
 * The largest rectangle of whole pixels with the given ratio (width / height) inside a convex quadrilateral, corners
 * clockwise. The scale and the middle of a rectangle that touches the sides are found as the best corner of a linear
 * programme in three unknowns. Undefined where not one pixel fits.
 */
export function largestRectInside(corners: readonly Point[], ratio: number): Rect | undefined {
  const [halfWidth, halfHeight] = [ratio / 2, 0.5];
  // Inside: nx x + ny y + reach s <= limit, for the middle (x, y) and the scale s.
  const sides = corners.map((p, k) => {
    const q = corners[(k + 1) % corners.length]!;
    const length = Math.hypot(q.x - p.x, q.y - p.y);
    const [nx, ny] = [(q.y - p.y) / length, -(q.x - p.x) / length];
    return { nx, ny, reach: Math.abs(nx) * halfWidth + Math.abs(ny) * halfHeight, limit: nx * p.x + ny * p.y };
  });
  // Where a side leaves it room to move, the middle of what is possible is taken.
  let best = { x: 0, y: 0, s: 0, ways: 1 };
  for (let skipped = 0; skipped < sides.length; skipped++) {
    const [a, b, c] = sides.filter((_, k) => k !== skipped) as [Side, Side, Side];
    const at = meeting(a, b, c);
    if (!at || at.s < best.s - 1e-6) continue;
    const fits = sides.every((side) => side.nx * at.x + side.ny * at.y + side.reach * at.s <= side.limit + 1e-6);
    if (!fits) continue;
    if (at.s > best.s + 1e-6) best = { ...at, ways: 1 };
    else best = { x: best.x + at.x, y: best.y + at.y, s: best.s, ways: best.ways + 1 };
  }
  const [middleX, middleY] = [best.x / best.ways, best.y / best.ways];
  // Plus nothing: minus zero is no coordinate.
  const x = 0 + Math.ceil(middleX - halfWidth * best.s - 1e-6);
  const y = 0 + Math.ceil(middleY - halfHeight * best.s - 1e-6);
  const width = Math.floor(middleX + halfWidth * best.s + 1e-6) - x;
  const height = Math.floor(middleY + halfHeight * best.s + 1e-6) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : undefined;
}

interface Side {
  nx: number;
  ny: number;
  reach: number;
  limit: number;
}

/** Where three sides are touched at once, by Cramer's rule. */
function meeting(a: Side, b: Side, c: Side): { x: number; y: number; s: number } | undefined {
  const det = (p: keyof Side, q: keyof Side, r: keyof Side): number =>
    a[p] * (b[q] * c[r] - b[r] * c[q]) - a[q] * (b[p] * c[r] - b[r] * c[p]) + a[r] * (b[p] * c[q] - b[q] * c[p]);
  const all = det('nx', 'ny', 'reach');
  if (Math.abs(all) < 1e-9) return undefined;
  return {
    x: det('limit', 'ny', 'reach') / all,
    y: det('nx', 'limit', 'reach') / all,
    s: det('nx', 'ny', 'limit') / all,
  };
}
