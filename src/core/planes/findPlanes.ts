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
import { hueAround, hueContrasts, materialEdge, medianHue, type Hue } from './materialEdge.ts';
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
/** Side of the squares whose hues are looked at. */
const SQUARE_PX = 6;
/** A direction that no edge shows, but that is usual (level or upright), counts as this much of the other's support. */
const ASSUMED_SHARE = 0.4;
/** A plane with an assumed direction must be so much better supported than one whose directions both show. */
const ASSUMED_HANDICAP = 1.5;
/** Cuts between two planes whose gain reaches this share of the best are as good. */
const ALMOST_BEST = 0.9;
/** Two planes through one direction are a wall and the ground before it if their scales change so differently. */
const OTHER_SLOPE = 1.5;
/** On its own side of their edge each of two planes must be so much better supported than the other. */
const DISTINCT = 4;
const SMALLEST_SUPPORT = 0.06;
/** How much larger the near end of a hole's surroundings must be drawn than the far end for the plane to matter. */
const SMALLEST_GRADIENT = 1.12;
/** The nearest and farthest parts of a plane, as scale against the hole's middle, that are of any use. */
const FARTHEST = 0.4;
const NEAREST = 3.5;
const SEED = 1;
const LEVEL: ProjectivePoint = [1, 0, 0];
const UPRIGHT: ProjectivePoint = [0, 1, 0];
/** Walls reach above the eye and below it; what lies on one side only, this much or less on the other, is rather level. */
const ONE_SIDED = 0.1;
const UPRIGHT_HANDICAP = 0.8;
/** Edges per cell side from which on more count for nothing. */
const FULL_DENSITY = 0.2;
/** Fewer known cells than this of the 25 around one don't tell how dense edges are there. */
const FEWEST_SEEN = 5;
/** Edges per cell side from which on a cell belongs to a direction. */
const AMONG_DENSITY = 0.04;
/** And from which on the plane is surely there. */
const SHOWN_DENSITY = 0.08;
/** What differs so much in hue from most of a plane is of another material; a shadow differs by half of that. */
const OTHER_HUE = 0.05;
/** Crossing edges are rarer: joints between boards, the ends of bricks. */
const CROSSING_WEIGHT = 4;

interface Direction {
  point: ProjectivePoint;
  /** Length of its edges in each cell, blurred; absent where it is only assumed. */
  density?: Float32Array;
  /** Of one that is assumed: the one that edges show in nearly the same direction, if any. */
  shownBy?: Direction | undefined;
}

/** The main directions are sought among the longest edges. */
const MAIN = { segments: 600, fewest: 8, share: 0.08, most: 4 };
/** Where edges run any way (grass, gravel), some meet somewhere by chance: hardly more than just miss each other. */
const LEAST_CONTRAST = 3;
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
  return nonOverlapping(believed, middle, squares)
    .filter(({ gradient }) => gradient >= SMALLEST_GRADIENT)
    .flatMap((candidate) => {
      const { rectangle, frame, support } = candidate;
      const corners = cornersOf(clipped(rectangle, frame), frame);
      if (!isConvexQuad(corners)) return [];
      return {
        support,
        corners: corners.map(({ x, y }) => ({ x: x * factor, y: y * factor })) as Plane['corners'],
        shown: {
          side: CELL_PX * factor,
          width: cells.width,
          data: shownCells(candidate, hues, cells),
        },
      };
    });
}

/** A small square of the picture outside the hole, with its middle in work px. */
interface Square extends Point {
  hue: Hue;
}

function knownSquares(
  image: RasterImage,
  work: { width: number; height: number; hole: Uint8Array },
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

interface Cells {
  width: number;
  height: number;
  /** 1 where a cell's middle lies outside the hole. */
  known: Uint8Array;
}

function cellsOf({ width, height, hole }: { width: number; height: number; hole: Uint8Array }): Cells {
  const cells = { width: Math.ceil(width / CELL_PX), height: Math.ceil(height / CELL_PX) };
  const known = new Uint8Array(cells.width * cells.height);
  for (let cell = 0; cell < known.length; cell++) {
    const x = Math.min(width - 1, ((cell % cells.width) + 0.5) * CELL_PX);
    const y = Math.min(height - 1, (Math.floor(cell / cells.width) + 0.5) * CELL_PX);
    known[cell] = hole[Math.floor(y) * width + Math.floor(x)] ? 0 : 1;
  }
  return { ...cells, known };
}

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
  for (const { point, members, contrast } of findVanishingPoints(longest, centre, scale, SEED, MAIN)) {
    if (contrast < LEAST_CONTRAST) continue;
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

/** Where the plane shows: edges along it, and the hue of what it is made of. */
function shownCells({ first, frame, rectangle }: Candidate, hues: CellHues, cells: Cells): Uint8Array {
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
  const shown = Float32Array.from(density, (value, cell) => (value > SHOWN_DENSITY && isAlike(hues[cell]) ? 1 : 0));
  // What lies beyond the plane's ends tells nothing of where it shows inside the hole.
  const untold = cells.known.map((known, cell) => (known && isInside(cell) ? 0 : 1));
  interpolateHarmonically(shown, untold, cells.width, cells.height, 100);
  return Uint8Array.from(shown, (value) => (value >= 0.5 ? 1 : 0));
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
  /** Support, less where the assumed direction is the less likely one. */
  worth: number;
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
  const alongHole: number[] = [];
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
        if (inHole) alongHole.push(p.x);
      }
    }
  }
  const support = supported / Math.max(1, near.length);
  if (support < SMALLEST_SUPPORT) return undefined;
  // Along its first direction a plane runs on at least as far as the hole does.
  const rectangle: Rectangle = [
    Math.min(between(s, 0.02), ...alongHole),
    Math.max(between(s, 0.98), ...alongHole),
    between(t, 0.02),
    between(t, 0.98),
  ];
  const isDoubtful = second.point === UPRIGHT && !second.density && liesOnOneSide(first.point, strength, cells);
  const worth = support * (isDoubtful ? UPRIGHT_HANDICAP : 1);
  return { ...pair, strength, near, support, worth, gradient: most / least, rectangle };
}

/** Whether nearly all that supports a plane lies above, or below, the height of a vanishing point of its. */
function liesOnOneSide([, y, w]: ProjectivePoint, strength: Float32Array, cells: Cells): boolean {
  let [above, all] = [0, 0];
  for (let cell = 0; cell < strength.length; cell++) {
    all += strength[cell]!;
    if (w * (Math.floor(cell / cells.width) + 0.5) * CELL_PX < y) above += strength[cell]!;
  }
  return Math.min(above, all - above) < ONE_SIDED * all;
}

/**
 * The best supported candidate and, if another shares its first direction (a wall and the ground before it), that one
 * too, both cut off along the line of that direction that parts their materials or, where these look alike, their
 * supports best.
 */
function nonOverlapping(candidates: readonly Candidate[], middle: Point, squares: readonly Square[]): Candidate[] {
  const mostShown = Math.max(0, ...candidates.filter(({ second }) => second.density).map(({ support }) => support));
  const usable = candidates.filter(
    ({ second, support, gradient }) =>
      second.density || (gradient >= SMALLEST_GRADIENT && support > ASSUMED_HANDICAP * mostShown),
  );
  const [best, ...others] = [...usable].sort((p, q) => q.worth - p.worth);
  if (!best) return [];
  const along = new Lines(best.first.point, middle);
  const heights = best.near.map(({ x, y }) => along.heightOf(x, y));
  const [lowest, highest] = [Math.min(...heights), Math.max(...heights)];
  const around = squares
    .map(({ x, y, hue }) => ({ height: along.heightOf(x, y), hue }))
    .filter(({ height }) => height >= lowest && height <= highest);
  const edge = materialEdge(around);
  const sharing = others.filter(({ first, second }) => first === best.first && second !== best.second);
  if (edge !== undefined) return partAt(edge, best, sharing, along);
  return sharing[0] ? partBySupport(best, sharing[0], around, along) : [best];
}

/** Both planes, cut off where their supports change and hues differ most; only one where they are not distinct. */
function partBySupport(
  best: Candidate,
  other: Candidate,
  around: readonly { height: number; hue: Hue }[],
  along: Lines,
): Candidate[] {
  const cuts = best.near
    .map(({ x, y, strength }, k) => ({ height: along.heightOf(x, y), advantage: strength - other.near[k]!.strength }))
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
  const contrasts = hueContrasts(around);
  const [first, last] = [asGood[0]!, asGood.at(-1)!];
  const at = contrasts
    .filter(({ height }) => height >= first && height <= last)
    .reduce((p, q) => (q.contrast > p.contrast ? q : p), { height: asGood[asGood.length >> 1]!, contrast: -1 }).height;
  const ownSide = best.near.map(({ x, y }) => along.heightOf(x, y) <= at === bestIsBelow);
  const strengthOf = (candidate: Candidate, onSide: boolean): number =>
    candidate.near.reduce((sum, { strength }, k) => sum + (ownSide[k] === onSide ? strength : 0), 0);
  const isDistinct =
    strengthOf(best, true) > DISTINCT * strengthOf(other, true) &&
    strengthOf(other, false) > DISTINCT * strengthOf(best, false);
  if (!isDistinct) return [[best, other].find(({ gradient }) => gradient >= SMALLEST_GRADIENT) ?? best];
  return [cutOff(best, at, bestIsBelow, along), cutOff(other, at, !bestIsBelow, along)].filter(
    (candidate) => candidate !== undefined,
  );
}

/**
 * Two planes that meet at an edge, or one that ends there. What is seen steeply (the ground) reaches from the edge
 * towards the eye, what is seen square on (a wall) stands behind.
 */
function partAt(edge: number, best: Candidate, sharing: readonly Candidate[], along: Lines): Candidate[] {
  const other = sharing.find(
    ({ gradient }) => Math.max(gradient / best.gradient, best.gradient / gradient) >= OTHER_SLOPE,
  );
  const here = along.at(edge);
  const beyond = along.at(edge + 1);
  const growsUpwards = ({ frame }: Candidate): boolean =>
    frame.nearness(beyond.x, beyond.y) > frame.nearness(here.x, here.y);
  if (!other) {
    const below = strengthWhere(best, (x, y) => along.heightOf(x, y) <= edge);
    const isBelow = below > strengthWhere(best, () => true) / 2;
    return [cutOff(best, edge, isBelow, along) ?? best];
  }
  const steep = best.gradient > other.gradient ? best : other;
  const steepIsBelow = !growsUpwards(steep);
  return [best, other]
    .map((candidate) => cutOff(candidate, edge, steepIsBelow === (candidate === steep), along))
    .filter((candidate) => candidate !== undefined);
}

/** Lines of one direction, told apart by the height at which they cut the normal through a picture's point. */
class Lines {
  readonly normal: Point;

  constructor(
    private readonly direction: ProjectivePoint,
    private readonly middle: Point,
  ) {
    const towards = { x: direction[0] - direction[2] * middle.x, y: direction[1] - direction[2] * middle.y };
    const length = Math.hypot(towards.x, towards.y);
    this.normal = { x: -towards.y / length, y: towards.x / length };
  }

  heightOf(x: number, y: number): number {
    const line = cross(this.direction, [x, y, 1]);
    const slope = line[0] * this.normal.x + line[1] * this.normal.y;
    return -(line[0] * this.middle.x + line[1] * this.middle.y + line[2]) / slope;
  }

  at(height: number): Point {
    return { x: this.middle.x + height * this.normal.x, y: this.middle.y + height * this.normal.y };
  }
}

/** What of a candidate lies below or above a height; undefined where nothing is left. */
function cutOff(candidate: Candidate, height: number, isBelow: boolean, along: Lines): Candidate | undefined {
  const { toPlane } = candidate.frame;
  const edge = along.at(height);
  const t = applyHomography(toPlane, edge.x, edge.y).y;
  const step = applyHomography(toPlane, edge.x + along.normal.x, edge.y + along.normal.y).y - t;
  const rectangle: Rectangle = [...candidate.rectangle];
  // Heights below the cut are the smaller ones; along the plane they may run either way.
  if (step > 0 === isBelow) rectangle[3] = Math.min(rectangle[3], t);
  else rectangle[2] = Math.max(rectangle[2], t);
  return rectangle[3] - rectangle[2] > CELL_PX ? { ...candidate, rectangle } : undefined;
}

const strengthWhere = ({ near }: Candidate, isIn: (x: number, y: number) => boolean): number =>
  near.reduce((sum, { x, y, strength }) => sum + (isIn(x, y) ? strength : 0), 0);

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
