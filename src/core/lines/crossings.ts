import type { RimPath } from '../fill/rimPath.ts';
import type { EdgeField } from './edgeField.ts';

/** An outline that reaches a hole's rim, in reduced px of its edge field. */
export interface Crossing {
  /** Where it meets the rim, as a point and as an index into the rim's path. */
  x: number;
  y: number;
  path: number;
  index: number;
  /** The direction out of the hole, of length 1. Its left is (outY, -outX): what lies against that is its right. */
  outX: number;
  outY: number;
  /** How it bends, 1 / px: positive to its right. */
  curvature: number;
  /** How far it was followed. */
  length: number;
  /** How colour changes across it, from its left to its right, in levels a px, R, G, B; and how much, root mean square. */
  step: readonly [number, number, number];
  strength: number;
  /** Colours across it from left to right, `PROFILE_REACH` px to either side, R, G, B, interleaved. */
  profile: Float32Array;
}

/** How crossings are looked for; all lengths in reduced px. */
export const CROSSING_OPTIONS = {
  /** Directions are tried up to so far from square across the rim, in steps of so much, radians. */
  widest: 1.2,
  turn: 0.07,
  /** Followed so far at first, then twice as far as long as it goes on, up to so far. */
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
type CrossingOptions = typeof CROSSING_OPTIONS;

/** Colours are read so many px to either side. */
export const PROFILE_REACH = 8;
/** An outline is followed from so many px outside the rim on: what is nearer is mixed with the hole. */
const FROM_PX = 2;
/** An outline that leaves askew runs so far along what is mixed with the hole. */
const MOST_ALONG_RIM_PX = 12;
/** What begins so few px off another one's way lies on it. */
const ON_PX = 2;

interface Ray {
  x: number;
  y: number;
  angle: number;
  curvature: number;
}

interface Response {
  step: [number, number, number];
  strength: number;
  coherence: number;
  /** How many px were known. */
  length: number;
}

/** Finds the outlines that reach the rim of a hole, strongest first. `paths` are the hole's, in reduced px. */
export function findCrossings(
  field: EdgeField,
  paths: readonly RimPath[],
  options: CrossingOptions = CROSSING_OPTIONS,
): Crossing[] {
  const found = paths.flatMap((path, k) => candidatesAlong(field, path, k, options));
  found.sort((a, b) => b.score - a.score);
  const kept: Candidate[] = [];
  for (const candidate of found) {
    if (kept.length >= options.most) break;
    if (!kept.some((other) => isSame(other, candidate, options))) kept.push(candidate);
  }
  const refined = kept.map((candidate) => refine(field, candidate, options)).filter((each) => each !== undefined);
  refined.sort((a, b) => weightOf(b) - weightOf(a));
  const crossings: Crossing[] = [];
  for (const crossing of refined)
    if (!crossings.some((other) => coincide(other, crossing, options))) crossings.push(crossing);
  return crossings;
}

/** How much speaks for a crossing: strength, and length in its square root. */
export const weightOf = ({ strength, length }: Crossing): number => strength * Math.sqrt(length);

interface Candidate extends Ray {
  path: number;
  index: number;
  score: number;
  step: Response['step'];
}

function candidatesAlong(field: EdgeField, path: RimPath, pathIndex: number, options: CrossingOptions): Candidate[] {
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
      found.push({ x, y, angle, curvature: 0, path: pathIndex, index, score, step: response.step });
    }
  }
  return found;
}

/** What `along` tells of a straight ray, from the nearest pixels; undefined where too little is known or changes. */
function straightAlong(
  { width, height, dx, dy, isKnown }: EdgeField,
  x: number,
  y: number,
  angle: number,
  length: number,
  weakest: number,
): Pick<Response, 'step' | 'strength' | 'coherence'> | undefined {
  const [ox, oy] = [Math.cos(angle), Math.sin(angle)];
  let [r, g, b, size, count] = [0, 0, 0, 0, 0];
  for (let k = FROM_PX; count < length; k++) {
    if (count === 0 && k > FROM_PX + MOST_ALONG_RIM_PX) return undefined;
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
  const far = Math.hypot(dx, dy);
  if (far > 2 * shortest) return false;
  const aside = Math.abs(-Math.sin(a.angle) * dx + Math.cos(a.angle) * dy);
  return turned < apartTurn && aside < apart && far < shortest && dot(a.step, b.step) > 0;
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

type Colour = readonly [number, number, number];
const dot = (a: Colour, b: Colour): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

const wrapped = (angle: number): number => Math.atan2(Math.sin(angle), Math.cos(angle));

/** The change of colour across a ray, over `length` px from the rim on, as far as it is known. */
function along(field: EdgeField, { x, y, angle, curvature }: Ray, length: number): Response {
  const [ox, oy] = [Math.cos(angle), Math.sin(angle)];
  const at = new Float64Array(3);
  const sums: [number, number, number] = [0, 0, 0];
  let [size, count] = [0, 0];
  for (let k = FROM_PX; count < length; k++) {
    const bent = 0.5 * curvature * k * k;
    const slope = curvature * k;
    // To the right of the way out.
    const [nx, ny] = [-oy, ox];
    const [tx, ty] = [ox + slope * nx, oy + slope * ny];
    const long = Math.hypot(tx, ty);
    if (count === 0 && k > FROM_PX + MOST_ALONG_RIM_PX) break;
    if (!between(field, x + k * ox + bent * nx, y + k * oy + bent * ny, -ty / long, tx / long, at)) {
      if (count > 0) break;
      continue;
    }
    count++;
    for (let c = 0; c < 3; c++) sums[c]! += at[c]!;
    size += Math.hypot(at[0]!, at[1]!, at[2]!);
  }
  const step = sums.map((sum) => (count > 0 ? sum / count : 0)) as [number, number, number];
  const all = Math.hypot(...step);
  return { step, strength: all / Math.sqrt(3), coherence: size > 0 ? (all * count) / size : 0, length: count };
}

function between(field: EdgeField, x: number, y: number, nx: number, ny: number, out: Float64Array): boolean {
  const { width, height, dx, dy, isKnown } = field;
  const [u, v] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  if (u < 0 || v < 0 || u + 1 >= width || v + 1 >= height) return false;
  const i = v * width + u;
  if (!isKnown[i] || !isKnown[i + 1] || !isKnown[i + width] || !isKnown[i + width + 1]) return false;
  const [a, b] = [x - 0.5 - u, y - 0.5 - v];
  const mixed = (plane: Float32Array, c: number): number =>
    (1 - b) * ((1 - a) * plane[3 * i + c]! + a * plane[3 * (i + 1) + c]!) +
    b * ((1 - a) * plane[3 * (i + width) + c]! + a * plane[3 * (i + width + 1) + c]!);
  for (let c = 0; c < 3; c++) out[c] = nx * mixed(dx, c) + ny * mixed(dy, c);
  return true;
}

/** Moves a candidate to where the change of colour across it is largest, and follows it as far as it goes on. */
function refine(field: EdgeField, candidate: Candidate, options: CrossingOptions): Crossing | undefined {
  const { shortest, longest, weakest, coherent } = options;
  let ray: Ray = candidate;
  let best = climb(field, ray, shortest, false);
  if (!isOutline(best.response, options)) return undefined;
  ray = best.ray;
  for (let length = 2 * shortest; length <= longest; length = Math.min(longest, 2 * length)) {
    const longer = climb(field, ray, length, true);
    const goesOn =
      longer.response.length > best.response.length + shortest / 3 &&
      longer.response.strength > Math.max(weakest, 0.7 * best.response.strength) &&
      longer.response.coherence > coherent;
    if (!goesOn) break;
    best = longer;
    ray = best.ray;
    if (length === longest) break;
  }
  const { step, strength, length } = best.response;
  const [outX, outY] = [Math.cos(ray.angle), Math.sin(ray.angle)];
  const { x, y, curvature } = ray;
  const { path, index } = candidate;
  const crossing = { x, y, path, index, outX, outY, curvature, length, step, strength };
  return { ...crossing, profile: profileOf(field, crossing) };
}

const isOutline = ({ strength, coherence }: Response, { weakest, coherent }: CrossingOptions): boolean =>
  strength >= weakest && coherence >= coherent;

/** Hill climbing over where a ray begins (across it), its angle and, if `bends`, its curvature. */
function climb(field: EdgeField, start: Ray, length: number, bends: boolean): { ray: Ray; response: Response } {
  const valueOf = ({ strength, coherence, length: known }: Response): number =>
    known < 4 ? -1 : strength * coherence * Math.sqrt(known);
  let ray = start;
  let response = along(field, ray, length);
  const steps = { aside: 1, turn: 2 / length, bend: bends ? 4 / (length * length) : 0 };
  for (let round = 0; round < 24 && steps.aside > 0.03; round++) {
    let moved = false;
    for (const [aside, turn, bend] of [
      [1, 0, 0],
      [-1, 0, 0],
      [0, 1, 0],
      [0, -1, 0],
      [0, 0, 1],
      [0, 0, -1],
      [-0.5, 1, 0],
      [0.5, -1, 0],
    ] as const) {
      if (bend !== 0 && !bends) continue;
      const by = aside * steps.aside;
      const tried = {
        x: ray.x - Math.sin(ray.angle) * by,
        y: ray.y + Math.cos(ray.angle) * by,
        angle: ray.angle + turn * steps.turn,
        curvature: ray.curvature + bend * steps.bend,
      };
      const there = along(field, tried, length);
      if (valueOf(there) > valueOf(response)) {
        [ray, response, moved] = [tried, there, true];
      }
    }
    if (moved) continue;
    steps.aside /= 2;
    steps.turn /= 2;
    steps.bend /= 2;
  }
  return { ray, response };
}

/** The mean colours across a crossing near the rim. */
function profileOf(field: EdgeField, { x, y, outX, outY, curvature, length }: Omit<Crossing, 'profile'>): Float32Array {
  const profile = new Float32Array(3 * (2 * PROFILE_REACH + 1)).fill(NaN);
  const { width, height, colour, isKnown } = field;
  for (let t = -PROFILE_REACH; t <= PROFILE_REACH; t++) {
    const sums = [0, 0, 0];
    let count = 0;
    for (let k = FROM_PX; k < Math.min(FROM_PX + 14, FROM_PX + length); k++) {
      const aside = t + 0.5 * curvature * k * k;
      const u = Math.floor(x + k * outX - aside * outY);
      const v = Math.floor(y + k * outY + aside * outX);
      if (u < 0 || v < 0 || u >= width || v >= height || !isKnown[v * width + u]) continue;
      count++;
      for (let c = 0; c < 3; c++) sums[c]! += colour[3 * (v * width + u) + c]!;
    }
    if (count >= 3) for (let c = 0; c < 3; c++) profile[3 * (t + PROFILE_REACH) + c] = sums[c]! / count;
  }
  return profile;
}
