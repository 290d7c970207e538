import type { Point } from '../core/geometry/homography.ts';

/** How places of a picture become places of another, after a step before them has changed. */
export interface Mapping {
  to(point: Point): Point;
  back(point: Point): Point;
  /** Where it is nothing but a shift by whole px, which loses nothing. */
  shift?: { dx: number; dy: number } | undefined;
}

export const shiftBy = (dx: number, dy: number): Mapping => ({
  to: ({ x, y }) => ({ x: x + dx, y: y + dy }),
  back: ({ x, y }) => ({ x: x - dx, y: y - dy }),
  shift: { dx, dy },
});

/** By how much a mapping enlarges what lies around a point. */
export function scaleAt({ to, shift }: Mapping, { x, y }: Point): number {
  if (shift) return 1;
  const [left, right, top, bottom] = [
    to({ x: x - 8, y }),
    to({ x: x + 8, y }),
    to({ x, y: y - 8 }),
    to({ x, y: y + 8 }),
  ];
  const across = { x: right.x - left.x, y: right.y - left.y };
  const down = { x: bottom.x - top.x, y: bottom.y - top.y };
  return Math.sqrt(Math.abs(across.x * down.y - across.y * down.x)) / 16;
}

/** Where a way from one place to another leads after a mapping, in whole px where it was so. */
export function mappedShift(by: Mapping, from: Point, { dxPx, dyPx }: { dxPx: number; dyPx: number }) {
  if (by.shift) return { dxPx, dyPx };
  const [a, b] = [by.to(from), by.to({ x: from.x + dxPx, y: from.y + dyPx })];
  return { dxPx: Math.round(b.x - a.x), dyPx: Math.round(b.y - a.y) };
}
