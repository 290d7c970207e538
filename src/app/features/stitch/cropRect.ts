import type { Rect } from '../../../core/image/rect.ts';

/** Which sides of the crop a handle moves: -1 the left or upper, 1 the right or lower, 0 none. */
export interface Handle {
  x: -1 | 0 | 1;
  y: -1 | 0 | 1;
}

const SMALLEST_PX = 32;

export const HANDLES: readonly Handle[] = ([-1, 0, 1] as const).flatMap((y) =>
  ([-1, 0, 1] as const).flatMap((x) => (x === 0 && y === 0 ? [] : [{ x, y }])),
);

/** The crop after a handle was moved by so many px, never turned inside out. The middle (no side) moves it all. */
export function dragCrop(crop: Rect, handle: Handle, dx: number, dy: number): Rect {
  if (handle.x === 0 && handle.y === 0) return { ...crop, x: Math.round(crop.x + dx), y: Math.round(crop.y + dy) };
  const [x, width] = dragSides(crop.x, crop.width, handle.x, dx);
  const [y, height] = dragSides(crop.y, crop.height, handle.y, dy);
  return { x, y, width, height };
}

function dragSides(start: number, length: number, side: -1 | 0 | 1, by: number): [number, number] {
  if (side === 0) return [start, length];
  const moved = Math.round(by);
  if (side > 0) return [start, Math.max(SMALLEST_PX, length + moved)];
  const next = Math.max(SMALLEST_PX, length - moved);
  return [start + length - next, next];
}

/** The crop at another size, its middle kept. */
export const resizeCrop = (crop: Rect, size: { width?: number; height?: number }): Rect => {
  const width = size.width ?? crop.width;
  const height = size.height ?? crop.height;
  return {
    x: Math.round(crop.x + (crop.width - width) / 2),
    y: Math.round(crop.y + (crop.height - height) / 2),
    width,
    height,
  };
};
