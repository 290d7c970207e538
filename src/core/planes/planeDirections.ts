import { findVanishingPoints, towards, type ProjectivePoint } from './vanishingPoints.ts';
import type { Segment } from './lineSegments.ts';
import { AMONG_DENSITY, CELL_PX, type Cells } from './cells.ts';

const SEED = 1;
const LEVEL: ProjectivePoint = [1, 0, 0];
export const UPRIGHT: ProjectivePoint = [0, 1, 0];
/** Fewer known cells than this of the 25 around one don't tell how dense edges are there. */
const FEWEST_SEEN = 5;
/** The main directions are sought among the longest edges. */
const MAIN = { segments: 600, fewest: 8, share: 0.08, most: 4 };
/** Where edges run any way (grass, gravel), some meet somewhere by chance: hardly more than just miss each other. */
export const MIN_CONTRAST = 3;
/** Those that cross a main one may have few edges, but they lie among the main one's. */
const CROSSING = { fewest: 4, share: 0.07, most: 3 };
const SMALLEST_CROSSING_SINE = 0.35;

/** A direction on a plane, as the point at which its lines meet in the picture (px). */
export interface Direction {
  point: ProjectivePoint;
  /** Length of its edges in each cell, blurred; absent where it is only assumed. */
  density?: Float32Array;
  /** Of one that is assumed: the one that edges show in nearly the same direction, if any. */
  shownBy?: Direction | undefined;
}

/** Whether two points at or near infinity lie in the same direction, to 6 degrees. */
const isNearly = (a: ProjectivePoint, b: ProjectivePoint): boolean =>
  Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) > Math.cos((6 * Math.PI) / 180);

/** Edge length per cell, in parts of the cell's side, over those of 5 x 5 cells that are known. */
function densityOf(segments: readonly Segment[], cells: Cells): Float32Array {
  const counts = new Float32Array(cells.width * cells.height);
  for (const { x0, y0, x1, y1, length } of segments) {
    const steps = Math.max(1, Math.round(length / 3));
    for (let k = 0; k < steps; k++) {
      const t = (k + 0.5) / steps;
      const cx = Math.min(cells.width - 1, Math.floor((x0 + t * (x1 - x0)) / CELL_PX));
      const cy = Math.min(cells.height - 1, Math.floor((y0 + t * (y1 - y0)) / CELL_PX));
      counts[cy * cells.width + cx]! += length / steps / CELL_PX;
    }
  }
  const out = new Float32Array(counts.length);
  for (let y = 0; y < cells.height; y++) {
    for (let x = 0; x < cells.width; x++) {
      let sum = 0;
      let seen = 0;
      for (let v = Math.max(0, y - 2); v <= Math.min(cells.height - 1, y + 2); v++) {
        for (let u = Math.max(0, x - 2); u <= Math.min(cells.width - 1, x + 2); u++) {
          sum += counts[v * cells.width + u]!;
          seen += cells.known[v * cells.width + u]!;
        }
      }
      out[y * cells.width + x] = sum / Math.max(FEWEST_SEEN, seen);
    }
  }
  return out;
}

/** Pairs of directions that may span a plane; the first of each shows in edges. */
export function findDirections(
  segments: readonly Segment[],
  work: { width: number; height: number },
  cells: Cells,
): [Direction, Direction][] {
  const centre = { x: work.width / 2, y: work.height / 2 };
  const scale = Math.hypot(work.width, work.height) / 2;
  const toPixels = ([x, y, w]: ProjectivePoint): ProjectivePoint => [
    x * scale + w * centre.x,
    y * scale + w * centre.y,
    w,
  ];
  const longest = segments.slice(0, MAIN.segments);
  const main: (Direction & { density: Float32Array })[] = [];
  const seen: ProjectivePoint[] = [];
  for (const { point, contrast } of findVanishingPoints(longest, centre, scale, SEED, MAIN)) {
    if (contrast < MIN_CONTRAST) continue;
    if (seen.some((other) => isNearly(point, other))) continue;
    seen.push(point);
    main.push({
      point: toPixels(point),
      // Shorter edges (the ends of bricks) tell where it shows as well.
      density: densityOf(towards(point, segments, centre, scale), cells),
    });
  }
  const pairs: [Direction, Direction][] = [];
  main.forEach((first, k) => {
    for (const second of main.slice(k + 1)) pairs.push([first, second]);
    for (const point of [LEVEL, UPRIGHT]) {
      const shownBy = main[seen.findIndex((other) => isNearly(point, other))];
      if (shownBy !== first) pairs.push([first, { point, shownBy }]);
    }
    const crossing = segments.filter((segment) => crosses(segment, first, cells));
    for (const { point, members } of findVanishingPoints(crossing, centre, scale, SEED, CROSSING)) {
      if (seen.some((other) => isNearly(point, other))) continue;
      pairs.push([
        first,
        {
          point: toPixels(point),
          density: densityOf(
            members.map((m) => crossing[m]!),
            cells,
          ),
        },
      ]);
    }
  });
  return pairs;
}

/** Whether a segment lies among a direction's edges and runs clearly another way. */
function crosses(
  { x0, y0, x1, y1, length }: Segment,
  { point, density }: { point: ProjectivePoint; density: Float32Array },
  cells: Cells,
): boolean {
  const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const cell = Math.floor(y / CELL_PX) * cells.width + Math.floor(x / CELL_PX);
  if (density[cell]! < AMONG_DENSITY) return false;
  const dx = point[0] - point[2] * x;
  const dy = point[1] - point[2] * y;
  const sine = Math.abs(dx * (y1 - y0) - dy * (x1 - x0)) / (length * Math.hypot(dx, dy));
  return sine > SMALLEST_CROSSING_SINE;
}
