import type { RasterImage } from '../image/rasterImage.ts';
import { boundsOf } from '../mask/mask.ts';
import { applyHomography, isConvexQuad, type Point } from '../geometry/homography.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import { CELL_PX, cellsOf, type Cells } from './cells.ts';
import { findLineSegments } from './lineSegments.ts';
import { hueAround, medianHue, type Hue, type Square } from './materialEdge.ts';
import { nonOverlapping, SMALLEST_GRADIENT } from './partPlanes.ts';
import { FARTHEST, frameOf, measure, NEAREST, type Candidate, type Frame, type Rectangle } from './planeCandidate.ts';
import { findDirections } from './planeDirections.ts';
import { reduceLuma } from './reduceLuma.ts';
import { bytesBy, floatsBy } from '../numeric/filled.ts';

/** A flat surface seen in perspective, as the quadrilateral that a rectangle of it makes in the picture. */
export interface Plane {
  /** In order around the rectangle, in px of the picture. */
  corners: [Point, Point, Point, Point];
  /** How much of the surroundings of the hole shows edges of both of its directions, 0..1. */
  support: number;
  /**
   * Squares of the picture, row by row, `side` px each: 1 where edges or its material show that the plane is there;
   * inside the hole where those around let expect it. The first square's corner lies at (x, y).
   */
  shown: { x: number; y: number; side: number; width: number; data: Uint8Array };
  /** Where another material begins: a x + b y + c of [a, b, c] is above 0 on the plane's side. */
  edge?: readonly [number, number, number];
}

/** What it takes to rebuild on a plane: one drawn by hand has no more than its corners. */
export type PlaneCorners = Pick<Plane, 'corners'> & Partial<Pick<Plane, 'shown' | 'edge'>>;

const WORK_SIDE_PX = 900;
const MAX_SEGMENTS = 1500;
/** Side of the squares whose hues are looked at. */
const SQUARE_PX = 6;
/** Edges per cell side from which on the plane is surely there. */
const SHOWN_DENSITY = 0.08;
/** What differs so much in hue from most of a plane is of another material; a shadow differs by half of that. */
const OTHER_HUE = 0.05;

/**
 * The planes around a hole: from straight edges their vanishing points, from each two of those (or one and the level or
 * upright direction) a plane, where edges of both lie close together. Best supported first; none where the picture
 * shows no perspective that matters for the hole. `hole` has one byte a pixel, non-zero = not to be looked at.
 */
export function findPlanes(image: RasterImage, hole: Hole): Plane[] {
  const factor = Math.max(1, Math.ceil(Math.max(image.width, image.height) / WORK_SIDE_PX));
  const work = reduceLuma(image, hole, factor);
  const segments = findLineSegments(work.luma, work.hole, work.width, work.height, MAX_SEGMENTS);
  const cells = cellsOf(work);
  const pairs = findDirections(segments, work, cells);
  const bounds = boundsOf({ width: work.width, height: work.height, data: work.hole });
  if (bounds.width === 0) return [];
  const middle = { x: bounds.x + bounds.width / 2, y: bounds.y + bounds.height / 2 };
  const reach = 0.35 * Math.max(bounds.width, bounds.height) + 3 * CELL_PX;
  const isNear = (x: number, y: number): boolean =>
    x > bounds.x - reach &&
    x < bounds.x + bounds.width + reach &&
    y > bounds.y - reach &&
    y < bounds.y + bounds.height + reach;

  const candidates: Candidate[] = [];
  for (const [first, second] of pairs) {
    const frame = frameOf(first.point, second.point, middle);
    const candidate = frame && measure({ frame, first, second }, cells, work.hole, work.width, isNear);
    if (candidate) candidates.push(candidate);
  }
  // What is assumed counts only where no edges show nearly the same.
  const believed = candidates.filter(
    ({ first, second }) =>
      !second.shownBy ||
      !candidates.some(
        (other) =>
          (other.first === first && other.second === second.shownBy) ||
          (other.first === second.shownBy && other.second === first),
      ),
  );
  const squares = knownSquares(image, work, factor);
  const hues = cellHues(squares, cells);
  const nearSquares = squares.filter(({ x, y }) => isNear(x, y));
  return nonOverlapping(believed, bounds, nearSquares)
    .filter(({ gradient }) => gradient >= SMALLEST_GRADIENT)
    .flatMap((candidate) => {
      const { rectangle, frame, support, edge } = candidate;
      const corners = cornersOf(clipped(rectangle, frame), frame);
      if (!isConvexQuad(corners)) return [];
      return {
        support,
        corners: corners.map(({ x, y }) => ({ x: x * factor, y: y * factor })) as Plane['corners'],
        ...(edge && { edge: [edge[0], edge[1], edge[2] * factor] as const }),
        shown: {
          x: 0,
          y: 0,
          side: CELL_PX * factor,
          width: cells.width,
          data: shownCells(candidate, hues, cells),
        },
      };
    });
}

function knownSquares(
  image: RasterImage,
  work: { width: number; height: number; hole: Hole },
  factor: number,
): Square[] {
  const squares: Square[] = [];
  for (let y = SQUARE_PX / 2; y < work.height; y += SQUARE_PX) {
    for (let x = SQUARE_PX / 2; x < work.width; x += SQUARE_PX) {
      if (work.hole[Math.floor(y) * work.width + Math.floor(x)]) continue;
      squares.push({ x, y, hue: hueAround(image, { x: x * factor, y: y * factor }, SQUARE_PX * factor) });
    }
  }
  return squares;
}

/** Where the plane shows: edges along it, unless another material begins where it ends, and the hue of its own. */
function shownCells({ first, frame, rectangle, edge }: Candidate, hues: CellHues, cells: Cells): Uint8Array {
  const isInside = (cell: number): boolean => {
    const x = ((cell % cells.width) + 0.5) * CELL_PX;
    const y = (Math.floor(cell / cells.width) + 0.5) * CELL_PX;
    const { x: s, y: t } = applyHomography(frame.toPlane, x, y);
    return s >= rectangle[0] && s <= rectangle[1] && t >= rectangle[2] && t <= rectangle[3];
  };
  const density = first.density!;
  const own = hues.filter((hue, cell) => hue && density[cell]! > SHOWN_DENSITY && isInside(cell)) as Hue[];
  const usual = own.length > 0 ? medianHue(own) : undefined;
  const isAlike = (hue: Hue | undefined): boolean =>
    !usual || (hue !== undefined && Math.hypot(hue[0] - usual[0], hue[1] - usual[1]) < OTHER_HUE);
  // On one side of an edge of two materials the hue alone tells: rounded stones have few straight edges.
  const isThere = (value: number): boolean => edge !== undefined || value > SHOWN_DENSITY;
  const shown = floatsBy(density.length, (cell) => (isThere(density[cell]!) && isAlike(hues[cell]) ? 1 : 0));
  // What lies beyond the plane's ends tells nothing of where it shows inside the hole.
  const untold = cells.known.map((known, cell) => (known && isInside(cell) ? 0 : 1));
  interpolateHarmonically(shown, untold, cells.width, cells.height, 100);
  return bytesBy(shown.length, (cell) => (shown[cell]! >= 0.5 ? 1 : 0));
}

/** The median hue of each cell and those next to it; undefined inside the hole. */
type CellHues = (Hue | undefined)[];

function cellHues(squares: readonly Square[], cells: Cells): CellHues {
  const within: Square[][] = Array.from({ length: cells.width * cells.height }, () => []);
  for (const square of squares) {
    within[Math.floor(square.y / CELL_PX) * cells.width + Math.floor(square.x / CELL_PX)]!.push(square);
  }
  return within.map((_, cell) => {
    const [cx, cy] = [cell % cells.width, Math.floor(cell / cells.width)];
    const around: Hue[] = [];
    for (let v = Math.max(0, cy - 1); v <= Math.min(cells.height - 1, cy + 1); v++) {
      for (let u = Math.max(0, cx - 1); u <= Math.min(cells.width - 1, cx + 1); u++) {
        for (const { hue } of within[v * cells.width + u]!) around.push(hue);
      }
    }
    return cells.known[cell] && around.length > 0 ? medianHue(around) : undefined;
  });
}

function cornersOf([s0, s1, t0, t1]: Rectangle, { fromPlane }: Frame): Plane['corners'] {
  const at = (u: number, v: number): Point => applyHomography(fromPlane, u, v);
  return [at(s0, t0), at(s1, t0), at(s1, t1), at(s0, t1)];
}

/** The rectangle drawn in towards the hole's middle until no corner is too far or too near. */
function clipped(ends: Rectangle, { fromPlane, nearness }: Frame): Rectangle {
  const rectangle: Rectangle = [...ends];
  const depthAt = (u: number, v: number): number => {
    const p = applyHomography(fromPlane, u, v);
    // Behind the vanishing line the map turns over.
    const w = fromPlane[6] * u + fromPlane[7] * v + fromPlane[8];
    return w * fromPlane[8] > 0 ? nearness(p.x, p.y) : 0;
  };
  for (let step = 0; step < 60; step++) {
    let worst: [number, number] | undefined;
    for (const i of [0, 1]) {
      for (const j of [2, 3]) {
        const depth = depthAt(rectangle[i]!, rectangle[j]!);
        if (depth <= FARTHEST || depth >= NEAREST) worst ??= [i, j];
      }
    }
    if (!worst) break;
    const [i, j] = worst;
    // The side along which the depth changes more gives way.
    const alongS = Math.abs(fromPlane[6] * rectangle[i]!);
    const alongT = Math.abs(fromPlane[7] * rectangle[j]!);
    rectangle[alongS > alongT ? i : j]! *= 0.92;
  }
  return rectangle;
}
