import { strongestNear, wayTo, type EdgeWays } from '../../core/segment/edgeWays.ts';

/** Ways along edges in a window of a photo that begins at (x, y), one of its pixels for each `step` x `step` px. */
export interface EdgeWindow {
  ways: EdgeWays;
  x: number;
  y: number;
  step: number;
}

interface Point {
  x: number;
  y: number;
}

const holds = ({ ways, x, y, step }: EdgeWindow, at: Point): boolean =>
  at.x >= x && at.y >= y && at.x < x + step * ways.width && at.y < y + step * ways.height;

/** The way from the window's start to a photo point, in photo points; past the window straight on. */
export function edgeWayTo(window: EdgeWindow, to: Point): Point[] {
  const { ways, x, y, step } = window;
  const flat = wayTo(ways, (to.x - x) / step, (to.y - y) / step);
  const points: Point[] = [];
  for (let i = 0; i < flat.length; i += 2) {
    points.push({ x: x + step * (flat[i]! + 0.5), y: y + step * (flat[i + 1]! + 0.5) });
  }
  return holds(window, to) ? points : [...points, to];
}

/** The photo point with the strongest edge within `radiusPx`; past the window the point itself. */
export function edgePointNear(window: EdgeWindow, to: Point, radiusPx: number): Point {
  if (!holds(window, to)) return to;
  const { ways, x, y, step } = window;
  const near = strongestNear(ways, (to.x - x) / step, (to.y - y) / step, Math.round(radiusPx / step));
  return { x: x + step * (near.x + 0.5), y: y + step * (near.y + 0.5) };
}
