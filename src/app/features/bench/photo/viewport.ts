import type { Rect, Size } from '../../../../core/image/rect.ts';

/** How the photo lies under the screen: screenPoint = (photoPoint - origin) x scale, in CSS px. */
export interface Viewport {
  scale: number;
  x: number;
  y: number;
}

export interface Point {
  x: number;
  y: number;
}

const LARGEST_SCALE = 16;
/** At least this many CSS px of the photo stay in sight. */
const KEPT_IN_SIGHT = 60;
const FIT_MARGIN = 24;

export const photoToScreen = (v: Viewport, p: Point): Point => ({ x: (p.x - v.x) * v.scale, y: (p.y - v.y) * v.scale });

export const screenToPhoto = (v: Viewport, p: Point): Point => ({ x: p.x / v.scale + v.x, y: p.y / v.scale + v.y });

/** The whole extent (the photo, or more around it), centred, never larger than 100 %. */
export function fitView(extent: Rect, screen: Size, pixelRatio: number): Viewport {
  const room = {
    width: Math.max(50, screen.width - 2 * FIT_MARGIN),
    height: Math.max(50, screen.height - 2 * FIT_MARGIN),
  };
  const scale = Math.min(room.width / extent.width, room.height / extent.height, 1 / pixelRatio);
  return {
    scale,
    x: extent.x + extent.width / 2 - screen.width / scale / 2,
    y: extent.y + extent.height / 2 - screen.height / scale / 2,
  };
}

/** Zooms by `factor`, the photo point under `screenPoint` staying where it is; no farther out than half of fit. */
export function zoomView(v: Viewport, factor: number, screenPoint: Point, extent: Rect, screen: Size): Viewport {
  const least = 0.5 * Math.min(screen.width / extent.width, screen.height / extent.height, 1);
  const scale = Math.max(least, Math.min(LARGEST_SCALE, v.scale * factor));
  const fixed = screenToPhoto(v, screenPoint);
  return keepInSight({ scale, x: fixed.x - screenPoint.x / scale, y: fixed.y - screenPoint.y / scale }, extent, screen);
}

/** Moves the photo by CSS px. */
export function panView(v: Viewport, dx: number, dy: number, extent: Rect, screen: Size): Viewport {
  return keepInSight({ ...v, x: v.x - dx / v.scale, y: v.y - dy / v.scale }, extent, screen);
}

function keepInSight(v: Viewport, extent: Rect, screen: Size): Viewport {
  const kept = KEPT_IN_SIGHT / v.scale;
  const within = (value: number, from: number, length: number, seen: number): number =>
    Math.max(from + kept - seen / v.scale, Math.min(from + length - kept, value));
  return {
    ...v,
    x: within(v.x, extent.x, extent.width, screen.width),
    y: within(v.y, extent.y, extent.height, screen.height),
  };
}
