import type { RimPath } from '../fill/rimPath.ts';
import type { EdgeField } from './edgeField.ts';
import { followOutline, FROM_PX, MAX_ALONG_RIM_PX, type Candidate, type Colour } from './followOutline.ts';

/** An outline that reaches a hole's rim, in reduced px of its edge field. */
export interface Crossing {
  /** Where it meets the rim. */
  x: number;
  y: number;
  /** The direction out of the hole, of length 1. Its left is (outY, -outX): what lies against that is its right. */
  outX: number;
  outY: number;
  /** How it bends, 1 / px: positive to its right. */
  curvature: number;
  /** How far it was followed. */
  length: number;
  /** How colour changes across it, from its left to its right, in levels a px, R, G, B; and how much, root mean square. */
  step: Colour;
  strength: number;
  /** Colours across it from left to right, `PROFILE_REACH` px to either side, R, G, B, interleaved. */
  profile: Float32Array;
}

/** How crossings are looked for; all lengths in reduced px. */
export const CROSSING_OPTIONS = {
  /** Directions are tried up to so far from square across the rim, in steps of so much, radians. */
  widest: 1.2,
  turn: 0.07,
  /** Looked for over so many px, and followed up to so far. */
  shortest: 12,
  longest: 64,
  /** A weaker change of colour, levels a px, is texture or noise. */
  weakest: 2.2,
  /** Along an outline the change of colour is the same; of texture it is not. So much of it must be. */
  coherent: 0.6,
  /** Rim points so near to a stronger crossing of about its direction (radians) show the same outline. */
  apart: 3,
  apartTurn: 0.5,
  /** No more than so many, the strongest, are kept. */
  most: 80,
};
export type CrossingOptions = typeof CROSSING_OPTIONS;

/** What begins so few px off another one's way lies on it. */
const ON_PX = 2;

/** Finds the outlines that reach the rim of a hole, strongest first. `paths` are the hole's, in reduced px. */
export function findCrossings(
  field: EdgeField,
  paths: readonly RimPath[],
  options: CrossingOptions = CROSSING_OPTIONS,
): Crossing[] {
  const found = paths.flatMap((path) => candidatesAlong(field, path, options));
  found.sort((a, b) => b.score - a.score);
  const kept: Candidate[] = [];
  for (const candidate of found) {
    if (kept.length >= options.most) break;
    if (!kept.some((other) => isSame(other, candidate, options))) kept.push(candidate);
  }
  const refined = kept
    .map((candidate) => followOutline(field, candidate, options))
    .filter((each) => each !== undefined);
  refined.sort((a, b) => weightOf(b) - weightOf(a));
  const crossings: Crossing[] = [];
  for (const crossing of refined) {
    if (!crossings.some((other) => coincide(other, crossing, options))) crossings.push(crossing);
  }
  return crossings;
}

/** How much speaks for a crossing: strength, and length in its square root. */
export const weightOf = ({ strength, length }: Crossing): number => strength * Math.sqrt(length);

/** The straight ways out of a hole, from points of its rim, across which colour changes. */
function candidatesAlong(field: EdgeField, path: RimPath, options: CrossingOptions): Candidate[] {
  const { widest, turn, shortest, weakest, coherent } = options;
  const angles = Math.round(widest / turn);
  const found: Candidate[] = [];
  for (let index = 0; index < path.count; index++) {
    const [x, y] = [path.x[index]!, path.y[index]!];
    const square = Math.atan2(path.outY[index]!, path.outX[index]!);
    for (let k = -angles; k <= angles; k++) {
      const angle = square + k * turn;
      const response = straightAlong(field, x, y, angle, shortest, weakest);
      if (!response || response.strength < weakest || response.coherence < coherent) continue;
      // What runs along the rim is seen from many of its points, what runs across it from few.
      const score = response.strength * response.coherence * Math.sqrt(Math.cos(k * turn));
      found.push({ x, y, angle, score, step: response.step });
    }
  }
  return found;
}

/** How colour changes across a straight way, from the nearest pixels; undefined where too little is known or changes. */
function straightAlong(
  { width, height, dx, dy, isKnown }: EdgeField,
  x: number,
  y: number,
  angle: number,
  length: number,
  weakest: number,
): { step: Colour; strength: number; coherence: number } | undefined {
  const [ox, oy] = [Math.cos(angle), Math.sin(angle)];
  let [r, g, b, size, count] = [0, 0, 0, 0, 0];
  for (let k = FROM_PX; count < length; k++) {
    if (count === 0 && k > FROM_PX + MAX_ALONG_RIM_PX) return undefined;
    const [u, v] = [Math.floor(x + k * ox), Math.floor(y + k * oy)];
    if (u < 0 || v < 0 || u >= width || v >= height || !isKnown[v * width + u]) {
      if (count > 0) return undefined;
      continue;
    }
    const i = 3 * (v * width + u);
    const red = ox * dy[i]! - oy * dx[i]!;
    const green = ox * dy[i + 1]! - oy * dx[i + 1]!;
    const blue = ox * dy[i + 2]! - oy * dx[i + 2]!;
    [r, g, b] = [r + red, g + green, b + blue];
    size += Math.sqrt(red * red + green * green + blue * blue);
    // Where nothing changes at first nothing begins.
    if (++count === 6 && size < 3 * weakest) return undefined;
  }
  const all = Math.sqrt(r * r + g * g + b * b);
  return {
    step: [r / count, g / count, b / count],
    strength: all / count / Math.sqrt(3),
    coherence: size > 0 ? all / size : 0,
  };
}

/** Whether two candidates that lie side by side show the same outline: the second lies on the first. */
function isSame(a: Candidate, b: Candidate, { apart, apartTurn, shortest }: CrossingOptions): boolean {
  const turned = Math.abs(wrapped(a.angle - b.angle));
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const aside = Math.abs(-Math.sin(a.angle) * dx + Math.cos(a.angle) * dy);
  return turned < apartTurn && aside < apart && Math.hypot(dx, dy) < shortest && dot(a.step, b.step) > 0;
}

/** Whether both show the same outline: each begins on the other. */
function coincide(a: Crossing, b: Crossing, { shortest, apartTurn }: CrossingOptions): boolean {
  const turned = a.outX * b.outX + a.outY * b.outY;
  if (turned < Math.cos(apartTurn) || dot(a.step, b.step) <= 0) return false;
  return (
    Math.hypot(b.x - a.x, b.y - a.y) < 2 * shortest &&
    Math.abs(asideOf(a, b)) < ON_PX &&
    Math.abs(asideOf(b, a)) < ON_PX
  );
}

/** How far to the right of the way out through `on` another crossing begins. */
export function asideOf(on: Crossing, { x, y }: Crossing): number {
  const [dx, dy] = [x - on.x, y - on.y];
  const far = dx * on.outX + dy * on.outY;
  return -dx * on.outY + dy * on.outX - 0.5 * on.curvature * far * far;
}

const dot = (a: Colour, b: Colour): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

const wrapped = (angle: number): number => Math.atan2(Math.sin(angle), Math.cos(angle));
