import type { Mark, MarkShape } from './markSchema.ts';

/** A mark moved by whole px. */
export const shiftMark = (mark: Mark, dx: number, dy: number): Mark => ({
  ...mark,
  shapes: mark.shapes.map((shape): MarkShape => {
    if (shape.kind === 'raster') return { ...shape, x: shape.x + dx, y: shape.y + dy };
    return { ...shape, points: shape.points.map((value, k) => value + (k % 2 === 0 ? dx : dy)) };
  }),
});
