import type { Point } from '../geometry/homography.ts';
import { hermite } from './bandFrame.ts';

/** A line that runs on through a hole, or a band between two such lines; in px of the picture. */
export interface RunOnLine {
  /** It leads through all of them, smoothly; at least two. Where it begins or ends inside the hole it ends there. */
  points: readonly Point[];
  /** How wide the band is at its first and at its last point; 0: a single outline. */
  widths: readonly [number, number];
}

/**
 * Points at most `apart` px from each other on the smooth curve through a line's points: cubics whose direction at a point is
 * that of the way between its neighbours (C. de Boor: A Practical Guide to Splines, on Bessel's slopes). `starts` and `ends`
 * are its directions there, where they are known.
 */
export function linePath(
  points: readonly Point[],
  apart: number,
  { starts, ends }: { starts?: Point | undefined; ends?: Point | undefined } = {},
): Point[] {
  const last = points.length - 1;
  const lengths = points.slice(1).map((p, k) => Math.max(1e-6, Math.hypot(p.x - points[k]!.x, p.y - points[k]!.y)));
  /** From one point to the next, for each px. */
  const ways = lengths.map((length, k): Point => mixed(points[k + 1]!, 1 / length, points[k]!, -1 / length));
  const slopes = points.map((_, k): Point => {
    if (k === 0 || k === last) return ways[Math.min(k, last - 1)]!;
    const [before, after] = [lengths[k - 1]!, lengths[k]!];
    return mixed(ways[k - 1]!, after / (before + after), ways[k]!, before / (before + after));
  });
  if (last > 1) {
    slopes[0] = mixed(ways[0]!, 1.5, slopes[1]!, -0.5);
    slopes[last] = mixed(ways[last - 1]!, 1.5, slopes[last - 1]!, -0.5);
  }
  if (starts) slopes[0] = starts;
  if (ends) slopes[last] = ends;
  const path: Point[] = [];
  for (const [k, length] of lengths.entries()) {
    const steps = Math.max(1, Math.ceil((1.1 * length) / apart));
    for (let j = path.length > 0 ? 1 : 0; j <= steps; j++) {
      const [h00, h10, h01, h11] = hermite(j / steps);
      const bend = mixed(slopes[k]!, h10 * length, slopes[k + 1]!, h11 * length);
      const chord = mixed(points[k]!, h00, points[k + 1]!, h01);
      path.push({ x: chord.x + bend.x, y: chord.y + bend.y });
    }
  }
  return path;
}

const mixed = (a: Point, ofA: number, b: Point, ofB: number): Point => ({
  x: ofA * a.x + ofB * b.x,
  y: ofA * a.y + ofB * b.y,
});
