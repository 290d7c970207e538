/** A half-open rectangle of whole pixels. */
export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Size {
  width: number;
  height: number;
}

export const isEmpty = (r: Rect): boolean => r.width <= 0 || r.height <= 0;

/** The common part of two rectangles; empty (width or height 0) when they do not touch. */
export function intersect(a: Rect, b: Rect): Rect {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x),
    height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y),
  };
}

/** The smallest rectangle around both; an empty one counts for nothing. */
export function unite(a: Rect, b: Rect): Rect {
  if (isEmpty(a)) return b;
  if (isEmpty(b)) return a;
  const x = Math.min(a.x, b.x);
  const y = Math.min(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}

/** The rectangle grown by `marginPx` on each side. */
export const inflate = (r: Rect, marginPx: number): Rect => ({
  x: r.x - marginPx,
  y: r.y - marginPx,
  width: r.width + 2 * marginPx,
  height: r.height + 2 * marginPx,
});

export const translate = (r: Rect, dx: number, dy: number): Rect => ({
  x: r.x + dx,
  y: r.y + dy,
  width: r.width,
  height: r.height,
});

export const wholeOf = (size: Size): Rect => ({
  x: 0,
  y: 0,
  width: size.width,
  height: size.height,
});

/** The smallest rectangle of whole pixels around some points. */
export function boundsOfPoints(points: readonly { x: number; y: number }[]): Rect {
  // A millionth of a pixel of slack keeps rounding noise from adding a row to an exact fit.
  const x = Math.floor(Math.min(...points.map((p) => p.x)) + 1e-6);
  const y = Math.floor(Math.min(...points.map((p) => p.y)) + 1e-6);
  return {
    x,
    y,
    width: Math.ceil(Math.max(...points.map((p) => p.x)) - 1e-6) - x,
    height: Math.ceil(Math.max(...points.map((p) => p.y)) - 1e-6) - y,
  };
}
