import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { boundsOf } from '../mask/mask.ts';
import { findLineSegments, type Segment } from './lineSegments.ts';
import {
  applyHomography,
  invertHomography,
  isConvexQuad,
  type Homography,
  type Point,
} from '../geometry/homography.ts';
import { cross, findVanishingPoints, type ProjectivePoint } from './vanishingPoints.ts';

/** A flat surface seen in perspective, as the quadrilateral that a rectangle of it makes in the picture. */
export interface Plane {
  /** In order around the rectangle, in px of the picture. */
  corners: [Point, Point, Point, Point];
  /** How much of the surroundings of the hole shows edges of both of its directions, 0..1. */
  support: number;
  /**
   * Squares of the picture, row by row, `side` px each: 1 where edges show that the plane is there; inside the hole
   * where those around let expect it.
   */
  shown: { side: number; width: number; data: Uint8Array };
}

/** What it takes to rebuild on a plane: one drawn by hand has no more than its corners. */
export type PlaneCorners = Pick<Plane, 'corners'> & Partial<Pick<Plane, 'shown'>>;

const WORK_SIDE_PX = 900;
const MOST_SEGMENTS = 1500;
/** Side of the squares, in work px, on which support is counted. */
const CELL_PX = 12;
/** A direction that no edge shows, but that is usual (level or upright), counts as this much of the other's support. */
const ASSUMED_SHARE = 0.4;
/** A plane with an assumed direction must be so much better supported than one whose directions both show. */
const ASSUMED_HANDICAP = 1.5;
/** Cuts between two planes whose gain reaches this share of the best are as good. */
const ALMOST_BEST = 0.9;
/** Height, in work px, of the strips whose hues are compared on both sides of such a cut. */
const STRIP_PX = 40;
/** On its own side of their edge each of two planes must be so much better supported than the other. */
const DISTINCT = 4;
const SMALLEST_SUPPORT = 0.08;
/** How much larger the near end of a hole's surroundings must be drawn than the far end for the plane to matter. */
const SMALLEST_GRADIENT = 1.12;
/** The nearest and farthest parts of a plane, as scale against the hole's middle, that are of any use. */
const FARTHEST = 0.4;
const NEAREST = 3.5;
const SEED = 1;
/** Level and upright. */
const USUAL: readonly ProjectivePoint[] = [
  [1, 0, 0],
  [0, 1, 0],
];
/** Edges per cell side from which on more count for nothing. */
const FULL_DENSITY = 0.2;
/** Edges per cell side from which on a cell belongs to a direction. */
const AMONG_DENSITY = 0.04;
/** And from which on the plane is surely there. */
const SHOWN_DENSITY = 0.08;
/** Crossing edges are rarer: joints between boards, the ends of bricks. */
const CROSSING_WEIGHT = 4;

interface Direction {
  point: ProjectivePoint;
  /** Length of its edges in each cell, blurred; absent where it is only assumed. */
  density?: Float32Array;
}

/** The main directions are sought among the longest edges. */
const MAIN = { segments: 600, fewest: 5, share: 0.08, most: 4 };
/** Those that cross a main one may have few edges, but they lie among the main one's. */
const CROSSING = { fewest: 4, share: 0.07, most: 3 };
const SMALLEST_CROSSING_SINE = 0.35;

/**
 * The planes around a hole: from straight edges their vanishing points, from each two of those (or one and the level or
 * upright direction) a plane, where edges of both lie close together. Best supported first; none where the picture
 * shows no perspective that matters for the hole. `hole` has one byte a pixel, non-zero = not to be looked at.
 */
export function findPlanes(image: RasterImage, hole: Uint8Array): Plane[] {
  const factor = Math.max(1, Math.ceil(Math.max(image.width, image.height) / WORK_SIDE_PX));
  const work = reduceLuma(image, hole, factor);
  const segments = findLineSegments(work.luma, work.hole, work.width, work.height, MOST_SEGMENTS);
  const cells = { width: Math.ceil(work.width / CELL_PX), height: Math.ceil(work.height / CELL_PX) };
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
  return nonOverlapping(candidates, middle, (point) => cellHue(image, factor, point))
    .filter(({ gradient }) => gradient >= SMALLEST_GRADIENT)
    .flatMap(({ rectangle, frame, support, first }) => {
      const corners = cornersOf(clipped(rectangle, frame), frame);
      if (!isConvexQuad(corners)) return [];
      return {
        support,
        corners: corners.map(({ x, y }) => ({ x: x * factor, y: y * factor })) as Plane['corners'],
        shown: {
          side: CELL_PX * factor,
          width: cells.width,
          data: shownCells(first.density!, cells, work.hole, work.width),
        },
      };
    });
}

/** Luma and hole at 1 / `factor` of the size. */
export function reduceLuma(
  { width, height, data }: RasterImage,
  hole: Uint8Array,
  factor: number,
): { width: number; height: number; luma: Float32Array<ArrayBuffer>; hole: Uint8Array<ArrayBuffer> } {
  const w = Math.floor(width / factor);
  const h = Math.floor(height / factor);
  const luma = new Float32Array(w * h);
  const reduced = new Uint8Array(w * h);
  for (let y = 0; y < h * factor; y++) {
    const row = Math.floor(y / factor) * w;
    for (let x = 0; x < w * factor; x++) {
      const i = y * width + x;
      const cell = row + Math.floor(x / factor);
      luma[cell]! += 0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!;
      if (hole[i]) reduced[cell] = 255;
    }
  }
  for (let cell = 0; cell < luma.length; cell++) luma[cell]! /= factor * factor;
  return { width: w, height: h, luma, hole: reduced };
}

/** Whether two points at or near infinity lie in the same direction, to 6 degrees. */
const isNearly = (a: ProjectivePoint, b: ProjectivePoint): boolean =>
  Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) > Math.cos((6 * Math.PI) / 180);

type Cells = { width: number; height: number };

/** Edge length per cell, in parts of the cell's side, over 5 x 5 cells. */
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
      for (let v = Math.max(0, y - 2); v <= Math.min(cells.height - 1, y + 2); v++) {
        for (let u = Math.max(0, x - 2); u <= Math.min(cells.width - 1, x + 2); u++)
          sum += counts[v * cells.width + u]!;
      }
      out[y * cells.width + x] = sum / 25;
    }
  }
  return out;
}

/** Pairs of directions that may span a plane; the first of each shows in edges. */
function findDirections(
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
  for (const { point, members } of findVanishingPoints(longest, centre, scale, SEED, MAIN)) {
    if (seen.some((other) => isNearly(point, other))) continue;
    seen.push(point);
    main.push({
      point: toPixels(point),
      density: densityOf(
        members.map((m) => longest[m]!),
        cells,
      ),
    });
  }
  const usual = USUAL.filter((point) => !seen.some((other) => isNearly(point, other))).map((point) => ({ point }));
  const pairs: [Direction, Direction][] = [];
  main.forEach((first, k) => {
    for (const second of [...main.slice(k + 1), ...usual]) pairs.push([first, second]);
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

/** How densely both directions' edges cover each cell. */
function jointDensity(a: Direction, b: Direction): Float32Array {
  return Float32Array.from(a.density!, (value, i) =>
    b.density ? Math.min(value, CROSSING_WEIGHT * b.density[i]!) : ASSUMED_SHARE * value,
  );
}

interface Frame {
  /** From the picture to the plane, with the origin and one px a px at the hole's middle. */
  toPlane: Homography;
  fromPlane: Homography;
  /** The distance from the vanishing line as a share of the middle's: 1 there, smaller farther away. */
  nearness(x: number, y: number): number;
}

/** The plane through two vanishing points, seen from the hole's middle; undefined where they make none. */
function frameOf(a: ProjectivePoint, b: ProjectivePoint, middle: Point): Frame | undefined {
  const horizon = cross(a, b);
  const here: ProjectivePoint = [middle.x, middle.y, 1];
  const dot = (l: ProjectivePoint, p: ProjectivePoint): number => l[0] * p[0] + l[1] * p[1] + l[2] * p[2];
  const w = dot(horizon, here);
  const first = cross(b, here);
  const second = cross(a, here);
  const firstLength = Math.hypot(first[0], first[1]);
  const secondLength = Math.hypot(second[0], second[1]);
  const sine = Math.abs(first[0] * second[1] - first[1] * second[0]) / (firstLength * secondLength);
  if (!(sine > 0.15) || w === 0) return undefined;
  const row = (line: ProjectivePoint, length: number): number[] => line.map((value) => value / length);
  const toPlane = [
    ...row(first, firstLength),
    ...row(second, secondLength),
    ...horizon.map((value) => value / w),
  ] as unknown as Homography;
  return {
    toPlane,
    fromPlane: invertHomography(toPlane),
    nearness: (x, y) => dot(horizon, [x, y, 1]) / w,
  };
}

function shownCells(density: Float32Array, cells: Cells, hole: Uint8Array, width: number): Uint8Array {
  const shown = Float32Array.from(density, (value) => (value > SHOWN_DENSITY ? 1 : 0));
  const height = hole.length / width;
  const inHole = Uint8Array.from(density, (_, cell) => {
    const x = Math.min(width - 1, ((cell % cells.width) + 0.5) * CELL_PX);
    const y = Math.min(height - 1, (Math.floor(cell / cells.width) + 0.5) * CELL_PX);
    return hole[Math.floor(y) * width + Math.floor(x)] ? 1 : 0;
  });
  interpolateHarmonically(shown, inHole, cells.width, cells.height, 100);
  return Uint8Array.from(shown, (value) => (value >= 0.5 ? 1 : 0));
}

/** Ends of a rectangle in plane coordinates: left, right, top, bottom. */
type Rectangle = [number, number, number, number];

interface Candidate {
  frame: Frame;
  first: Direction;
  second: Direction;
  strength: Float32Array;
  /** Cells around the hole, with how well they support it. */
  near: { x: number; y: number; strength: number }[];
  support: number;
  /** How much larger the nearest part around the hole is drawn than the farthest. */
  gradient: number;
  rectangle: Rectangle;
}

function measure(
  pair: Pick<Candidate, 'frame' | 'first' | 'second'>,
  cells: Cells,
  hole: Uint8Array,
  width: number,
  isNear: (x: number, y: number) => boolean,
): Candidate | undefined {
  const { frame, first, second } = pair;
  const strength = jointDensity(first, second);
  const s: number[] = [];
  const t: number[] = [];
  const near: Candidate['near'] = [];
  let supported = 0;
  let least = Infinity;
  let most = 0;
  for (let cy = 0; cy < cells.height; cy++) {
    for (let cx = 0; cx < cells.width; cx++) {
      const x = (cx + 0.5) * CELL_PX;
      const y = (cy + 0.5) * CELL_PX;
      const depth = frame.nearness(x, y);
      const here = strength[cy * cells.width + cx]!;
      const inHole = hole[Math.floor(y) * width + Math.floor(x)] !== 0;
      const counts = depth > FARTHEST && depth < NEAREST;
      const around = isNear(x, y);
      if (around && !inHole) {
        near.push({ x, y, strength: counts ? here : 0 });
        if (counts) supported += Math.min(1, here / FULL_DENSITY);
      }
      if (around && counts) {
        least = Math.min(least, depth);
        most = Math.max(most, depth);
      }
      if (counts && (here > AMONG_DENSITY || (inHole && around))) {
        const p = applyHomography(frame.toPlane, x, y);
        s.push(p.x);
        t.push(p.y);
      }
    }
  }
  const support = supported / Math.max(1, near.length);
  if (support < SMALLEST_SUPPORT) return undefined;
  const rectangle: Rectangle = [between(s, 0.02), between(s, 0.98), between(t, 0.02), between(t, 0.98)];
  return { ...pair, strength, near, support, gradient: most / least, rectangle };
}

/**
 * The best supported candidate and, if another shares its first direction (a wall and the ground before it), that one
 * too, both cut off along the line of that direction that parts their supports best.
 */
function nonOverlapping(candidates: readonly Candidate[], middle: Point, hueOf: (point: Point) => Hue): Candidate[] {
  const mostShown = Math.max(0, ...candidates.filter(({ second }) => second.density).map(({ support }) => support));
  const usable = candidates.filter(
    ({ second, support, gradient }) =>
      second.density || (gradient >= SMALLEST_GRADIENT && support > ASSUMED_HANDICAP * mostShown),
  );
  const [best, ...others] = [...usable].sort((p, q) => q.support - p.support);
  if (!best) return [];
  const other = others.find(({ first, second }) => first === best.first && second !== best.second);
  if (!other) return [best];
  const { point } = best.first;
  const towards = { x: point[0] - point[2] * middle.x, y: point[1] - point[2] * middle.y };
  const length = Math.hypot(towards.x, towards.y);
  const normal = { x: -towards.y / length, y: towards.x / length };
  /** Where the line from (x, y) along the first direction cuts the normal through the middle. */
  const heightOf = (x: number, y: number): number => {
    const line = cross(point, [x, y, 1]);
    return -(line[0] * middle.x + line[1] * middle.y + line[2]) / (line[0] * normal.x + line[1] * normal.y);
  };
  const cuts = best.near
    .map(({ x, y, strength }, k) => ({ height: heightOf(x, y), advantage: strength - other.near[k]!.strength }))
    .sort((p, q) => p.height - q.height);
  const total = cuts.reduce((sum, { advantage }) => sum + advantage, 0);
  let below = 0;
  // Advantage of the best below each cut, and of the other above it.
  const gains = cuts.map(({ advantage }) => 2 * (below += advantage) - total);
  const bestIsBelow = Math.max(...gains) >= -Math.min(...gains);
  const sign = bestIsBelow ? 1 : -1;
  const most = Math.max(...gains.map((gain) => sign * gain));
  // Of cuts that are nearly as good the one between the least alike hues.
  const asGood = cuts.filter((_, k) => sign * gains[k]! >= ALMOST_BEST * most).map(({ height }) => height);
  const at = leastAlike(
    asGood,
    best.near.map((cell) => ({ height: heightOf(cell.x, cell.y), hue: hueOf(cell) })),
  );
  const ownSide = best.near.map(({ x, y }) => heightOf(x, y) <= at === bestIsBelow);
  const strengthOf = (candidate: Candidate, onSide: boolean): number =>
    candidate.near.reduce((sum, { strength }, k) => sum + (ownSide[k] === onSide ? strength : 0), 0);
  const isDistinct =
    strengthOf(best, true) > DISTINCT * strengthOf(other, true) &&
    strengthOf(other, false) > DISTINCT * strengthOf(best, false);
  if (!isDistinct) return [[best, other].find(({ gradient }) => gradient >= SMALLEST_GRADIENT) ?? best];
  const edge = { x: middle.x + at * normal.x, y: middle.y + at * normal.y };
  const cut = (candidate: Candidate, isBelow: boolean): Candidate | undefined => {
    const { toPlane } = candidate.frame;
    const t = applyHomography(toPlane, edge.x, edge.y).y;
    const step = applyHomography(toPlane, edge.x + normal.x, edge.y + normal.y).y - t;
    const rectangle: Rectangle = [...candidate.rectangle];
    // Heights below the cut are the smaller ones; along the plane they may run either way.
    if (step > 0 === isBelow) rectangle[3] = Math.min(rectangle[3], t);
    else rectangle[2] = Math.max(rectangle[2], t);
    return rectangle[3] - rectangle[2] > CELL_PX ? { ...candidate, rectangle } : undefined;
  };
  return [cut(best, bestIsBelow), cut(other, !bestIsBelow)].filter((candidate) => candidate !== undefined);
}

/** Shares of red and blue in the sum of the channels: the same in light and in shadow. */
type Hue = readonly [red: number, blue: number];

/** Of some heights the one where the mean hues of the strips just below and above differ most. */
function leastAlike(heights: readonly number[], cells: readonly { height: number; hue: Hue }[]): number {
  const meanBetween = (from: number, to: number): Hue | undefined => {
    const inside = cells.filter(({ height }) => height > from && height <= to);
    if (inside.length === 0) return undefined;
    const mean = (c: 0 | 1): number => inside.reduce((sum, { hue }) => sum + hue[c], 0) / inside.length;
    return [mean(0), mean(1)];
  };
  let most = -1;
  let found = heights[heights.length >> 1]!;
  let last = -Infinity;
  for (const height of heights) {
    if (height - last < STRIP_PX / 8) continue;
    last = height;
    const below = meanBetween(height - STRIP_PX, height);
    const above = meanBetween(height, height + STRIP_PX);
    if (!below || !above) continue;
    const difference = Math.hypot(below[0] - above[0], below[1] - above[1]);
    if (difference > most) {
      most = difference;
      found = height;
    }
  }
  return found;
}

/** The hue of the square of the picture around a cell's centre, from 16 samples. */
function cellHue({ width, height, data }: RasterImage, factor: number, { x, y }: Point): Hue {
  const sum: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < 16; k++) {
    const px = Math.min(width - 1, Math.floor((x + ((k & 3) / 4 - 0.4) * CELL_PX) * factor));
    const py = Math.min(height - 1, Math.floor((y + ((k >> 2) / 4 - 0.4) * CELL_PX) * factor));
    for (const c of [0, 1, 2] as const) sum[c] += data[4 * (py * width + px) + c]! / 16;
  }
  const all = sum[0] + sum[1] + sum[2] + 1;
  return [sum[0] / all, sum[2] / all];
}

function cornersOf([s0, s1, t0, t1]: Rectangle, { fromPlane }: Frame): Plane['corners'] {
  const at = (u: number, v: number): Point => applyHomography(fromPlane, u, v);
  return [at(s0, t0), at(s1, t0), at(s1, t1), at(s0, t1)];
}

function between(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.round(share * (sorted.length - 1))]!;
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
