import type { Point } from './homography.ts';

/** Four corners, clockwise from the top left. */
export type Quad = readonly [Point, Point, Point, Point];

/**
 * A convex quadrilateral with its sides (top, right, bottom, left) moved inward by so many px each; outward where
 * negative.
 */
export function insetQuad(quad: Quad, px: readonly [number, number, number, number]): Quad {
  const sides = quad.map((p, k) => {
    const q = quad[(k + 1) % 4]!;
    const length = Math.hypot(q.x - p.x, q.y - p.y);
    const [nx, ny] = [-(q.y - p.y) / length, (q.x - p.x) / length];
    return { nx, ny, limit: nx * p.x + ny * p.y + px[k]! };
  });
  return sides.map((side, k) => {
    const before = sides[(k + 3) % 4]!;
    const determinant = before.nx * side.ny - before.ny * side.nx;
    return {
      x: (before.limit * side.ny - before.ny * side.limit) / determinant,
      y: (before.nx * side.limit - before.limit * side.nx) / determinant,
    };
  }) as unknown as Quad;
}
