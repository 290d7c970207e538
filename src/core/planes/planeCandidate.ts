import { applyHomography, invertHomography, type Homography, type Point } from '../geometry/homography.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { AMONG_DENSITY, CELL_PX, type Cells } from './cells.ts';
import { UPRIGHT, type Direction } from './planeDirections.ts';
import { cross, type ProjectivePoint } from './vanishingPoints.ts';
import { floatsBy } from '../numeric/filled.ts';

/** A direction that no edge shows, but that is usual (level or upright), counts as this much of the other's support. */
const ASSUMED_SHARE = 0.4;
const SMALLEST_SUPPORT = 0.06;
/** The nearest and farthest parts of a plane, as scale against the hole's middle, that are of any use. */
export const FARTHEST = 0.4;
export const NEAREST = 3.5;
/** Walls reach above the eye and below it; what lies on one side only, this much or less on the other, is rather level. */
const ONE_SIDED = 0.1;
const UPRIGHT_HANDICAP = 0.8;
/** Edges per cell side from which on more count for nothing. */
const FULL_DENSITY = 0.2;
/** Crossing edges are rarer: joints between boards, the ends of bricks. */
const CROSSING_WEIGHT = 4;

/** How a plane lies in the picture. */
export interface Frame {
  /** From the picture to the plane, with the origin and one px a px at the hole's middle. */
  toPlane: Homography;
  fromPlane: Homography;
  /** The distance from the vanishing line as a share of the middle's: 1 there, smaller farther away. */
  nearness(x: number, y: number): number;
}

/** The plane through two vanishing points, seen from the hole's middle; undefined where they make none. */
export function frameOf(a: ProjectivePoint, b: ProjectivePoint, middle: Point): Frame | undefined {
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

/** Ends of a rectangle in plane coordinates: left, right, top, bottom. */
export type Rectangle = [number, number, number, number];

/** A plane that may be there, with all that speaks for it. */
export interface Candidate {
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
  /** The line at which another material begins, as coefficients that give more than 0 on this one's side. */
  edge?: ProjectivePoint;
}

/** How densely both directions' edges cover each cell. */
function jointDensity(a: Direction, b: Direction): Float32Array {
  const density = a.density!;
  return floatsBy(density.length, (i) =>
    b.density ? Math.min(density[i]!, CROSSING_WEIGHT * b.density[i]!) : ASSUMED_SHARE * density[i]!,
  );
}

/** How well a plane is supported around the hole, and how far it reaches; undefined where hardly at all. */
export function measure(
  pair: Pick<Candidate, 'frame' | 'first' | 'second'>,
  cells: Cells,
  hole: Hole,
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

function between(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.round(share * (sorted.length - 1))]!;
}
