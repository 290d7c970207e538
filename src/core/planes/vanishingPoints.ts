import { createRandom } from '../numeric/random.ts';
import type { Segment } from './lineSegments.ts';

/** A point of the projective plane, of length 1; third coordinate 0 = a direction, infinitely far away. */
export type ProjectivePoint = readonly [number, number, number];

export interface VanishingPoint {
  point: ProjectivePoint;
  /** Indices of the segments that run towards it. */
  members: number[];
  /** Sum of their lengths, as a share of all segments'. */
  share: number;
  /**
   * How much longer they are than what, at as wide an angle, just misses the point: about 1 where directions are random.
   */
  contrast: number;
}

/**
 * A segment runs towards a point when the line from its middle to there deviates less than this, plus what half a
 * pixel at its ends makes.
 */
const LARGEST_SINE = 0.018;
const END_ERROR_PX = 0.5;
/** What deviates by less than so many times that just misses the point. */
const NEAR_MISS = 3;
const TRIES = 1500;
const REFINEMENTS = 4;

/**
 * Where many straight edges of a picture meet when prolonged, the best supported first. Coordinates are the segments',
 * shifted to `centre` and divided by `scale`, so that finite and infinite points are of like size. Random pairs are
 * tried and the best refined by least squares over all that agree; those are taken out and the search repeated.
 * It ends when fewer than `fewest` segments or a smaller share of the length than `share` are left to the best.
 * C. Rother: A New Approach to Vanishing Point Detection in Architectural Environments, BMVC, 2000.
 */
export function findVanishingPoints(
  segments: readonly Segment[],
  centre: { x: number; y: number },
  scale: number,
  seed: number,
  { fewest, share: smallest, most: mostPoints }: { fewest: number; share: number; most: number },
): VanishingPoint[] {
  const lines = segments.map((segment) => lineOf(segment, centre, scale));
  const all = segments.reduce((sum, { length }) => sum + length, 0);
  const random = createRandom(seed);
  let left = segments.map((_, k) => k);
  const found: VanishingPoint[] = [];
  while (found.length < mostPoints && left.length >= fewest) {
    let best: ProjectivePoint | undefined;
    let most = 0;
    const candidates = left.map((k) => lines[k]!);
    for (let attempt = 0; attempt < TRIES; attempt++) {
      const a = candidates[random.below(left.length)]!;
      const b = candidates[random.below(left.length)]!;
      const point = normalised(cross(a.line, b.line));
      if (!point) continue;
      const support = supportOf(point, candidates);
      if (support > most) {
        most = support;
        best = point;
      }
    }
    if (!best) break;
    let members = membersOf(best, left, lines);
    for (let k = 0; k < REFINEMENTS && members.length >= 2; k++) {
      best = leastSquaresMeeting(members.map((m) => lines[m]!));
      members = membersOf(best, left, lines);
    }
    const share = members.reduce((sum, m) => sum + segments[m]!.length, 0) / all;
    if (members.length < fewest || share < smallest) break;
    found.push({ point: best, members, share, contrast: contrastOf(best, lines) });
    const taken = new Set(members);
    left = left.filter((k) => !taken.has(k));
  }
  return found;
}

/** Those of some segments that run towards a point; coordinates as in `findVanishingPoints`. */
export function towards(
  point: ProjectivePoint,
  segments: readonly Segment[],
  centre: { x: number; y: number },
  scale: number,
): Segment[] {
  return segments.filter((segment) => deviation(lineOf(segment, centre, scale), point) < 1);
}

interface WeightedLine {
  /** a x + b y + c = 0 with a^2 + b^2 = 1. */
  line: ProjectivePoint;
  /** Its middle and its direction. */
  x: number;
  y: number;
  dx: number;
  dy: number;
  length: number;
  largestSine: number;
}

function lineOf({ x0, y0, x1, y1, length }: Segment, centre: { x: number; y: number }, scale: number): WeightedLine {
  const [x, y] = [((x0 + x1) / 2 - centre.x) / scale, ((y0 + y1) / 2 - centre.y) / scale];
  const [dx, dy] = [(x1 - x0) / length, (y1 - y0) / length];
  const line = [-dy, dx, dy * x - dx * y] as const;
  return { line, x, y, dx, dy, length, largestSine: LARGEST_SINE + END_ERROR_PX / length };
}

/**
 * The sine of the angle between a segment and the line from its middle to the point, as a share of the largest with
 * which it still runs towards it.
 */
function deviation({ x, y, dx, dy, largestSine }: WeightedLine, [px, py, pw]: ProjectivePoint): number {
  const u = px - pw * x;
  const v = py - pw * y;
  return Math.abs(u * dy - v * dx) / ((Math.sqrt(u * u + v * v) || 1) * largestSine);
}

function supportOf(point: ProjectivePoint, candidates: readonly WeightedLine[]): number {
  let sum = 0;
  for (const line of candidates) {
    const off = deviation(line, point);
    if (off < 1) sum += line.length * (1 - off * off);
  }
  return sum;
}

const membersOf = (point: ProjectivePoint, candidates: readonly number[], lines: readonly WeightedLine[]): number[] =>
  candidates.filter((k) => deviation(lines[k]!, point) < 1);

function contrastOf(point: ProjectivePoint, lines: readonly WeightedLine[]): number {
  let [hit, missed] = [0, 0];
  for (const line of lines) {
    const off = deviation(line, point);
    if (off < 1) hit += line.length;
    else if (off < NEAR_MISS) missed += line.length / (NEAR_MISS - 1);
  }
  return missed > 0 ? hit / missed : Infinity;
}

/** The point whose weighted squared distances from the lines are least: power iteration on the inverse matrix. */
function leastSquaresMeeting(lines: readonly WeightedLine[]): ProjectivePoint {
  const m = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (const { line, length } of lines) {
    for (let r = 0; r < 3; r++) for (let c = 0; c < 3; c++) m[3 * r + c]! += length * line[r]! * line[c]!;
  }
  const trace = m[0]! + m[4]! + m[8]!;
  // A trifle on the diagonal keeps exact meetings from a singular matrix.
  for (const k of [0, 4, 8]) m[k]! += 1e-9 * trace;
  let v: ProjectivePoint = [0.57, 0.57, 0.57];
  for (let step = 0; step < 30; step++) v = normalised(solve3(m, v)) ?? v;
  return v;
}

function solve3(m: readonly number[], v: ProjectivePoint): ProjectivePoint {
  const [a, b, c, d, e, f, g, h, i] = m as [number, number, number, number, number, number, number, number, number];
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  const [x, y, z] = v;
  return [
    ((e * i - f * h) * x + (c * h - b * i) * y + (b * f - c * e) * z) / det,
    ((f * g - d * i) * x + (a * i - c * g) * y + (c * d - a * f) * z) / det,
    ((d * h - e * g) * x + (b * g - a * h) * y + (a * e - b * d) * z) / det,
  ];
}

export const cross = (a: ProjectivePoint, b: ProjectivePoint): ProjectivePoint => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

function normalised([x, y, z]: ProjectivePoint): ProjectivePoint | undefined {
  const length = Math.hypot(x, y, z);
  return length > 1e-12 && Number.isFinite(length) ? [x / length, y / length, z / length] : undefined;
}
