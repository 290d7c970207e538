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

/** How colour changes across a direction (nx, ny), between pixels; false where that is not known. */
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

/** An outline is looked for so many px to either side of where it is expected, in steps of so much. */
const TRACK_PX = 2;
const TRACK_STEP_PX = 0.5;
/** Where less of the change of colour is left the outline is not seen; after so many such px it is lost. */
const SEEN_SHARE = 0.4;
const MAX_MISSED = 4;
/** So many px are followed before it is fitted anew, and so many must be seen before it may bend. */
const REFIT_PX = 6;
const BENDS_FROM_PX = 20;

/** Follows a candidate out of the hole, px after px where the change of colour is largest, and fits a parabola to that. */
function refine(field: EdgeField, candidate: Candidate, options: CrossingOptions): Crossing | undefined {
  const { shortest, longest, weakest, coherent } = options;
  const size = Math.hypot(...candidate.step);
  const contrast = candidate.step.map((by) => by / size) as [number, number, number];
  const [ox, oy] = [Math.cos(candidate.angle), Math.sin(candidate.angle)];
  const seen: { far: number; aside: number; weight: number }[] = [];
  let fit = { aside: 0, slope: 0, bend: 0 };
  const sums: [number, number, number] = [0, 0, 0];
  let [all, missed, last] = [0, 0, 0];
  const out = new Float64Array(3);
  for (let far = FROM_PX; far < longest + FROM_PX; far++) {
    const expected = fit.aside + fit.slope * far + 0.5 * fit.bend * far * far;
    const slope = fit.slope + fit.bend * far;
    const long = Math.hypot(1, slope);
    const [tx, ty] = [(ox - slope * oy) / long, (oy + slope * ox) / long];
    const found = strongestAcross(field, candidate, far, expected, tx, ty, contrast, out);
    if (!found || found.by < SEEN_SHARE * size) {
      if (seen.length === 0 && far < FROM_PX + MOST_ALONG_RIM_PX) continue;
      if (++missed > MAX_MISSED || !found) break;
      continue;
    }
    missed = 0;
    last = far;
    seen.push({ far, aside: found.aside, weight: found.by });
    for (let c = 0; c < 3; c++) sums[c]! += found.step[c]!;
    all += Math.hypot(...found.step);
    if (seen.length % REFIT_PX === 0) fit = fitted(seen, seen.length >= BENDS_FROM_PX);
  }
  if (seen.length < 0.75 * shortest) return undefined;
  fit = fitted(seen, seen.length >= BENDS_FROM_PX);
  const step = sums.map((sum) => sum / seen.length) as [number, number, number];
  const strength = Math.hypot(...step) / Math.sqrt(3);
  if (strength < weakest || Math.hypot(...sums) < coherent * all) return undefined;
  const angle = candidate.angle + Math.atan(fit.slope);
  const crossing = {
    x: candidate.x - oy * fit.aside,
    y: candidate.y + ox * fit.aside,
    path: candidate.path,
    index: candidate.index,
    outX: Math.cos(angle),
    outY: Math.sin(angle),
    curvature: fit.bend / (1 + fit.slope ** 2) ** 1.5,
    length: last - seen[0]!.far + 1,
    step,
    strength,
  };
  return { ...crossing, profile: profileOf(field, crossing) };
}

/** Where beside what is expected the change of `contrast` across is largest, `far` px along a ray; undefined past what is known. */
function strongestAcross(
  field: EdgeField,
  { x, y, angle }: Ray,
  far: number,
  expected: number,
  tx: number,
  ty: number,
  contrast: Colour,
  out: Float64Array,
): { aside: number; by: number; step: Colour } | undefined {
  const [ox, oy] = [Math.cos(angle), Math.sin(angle)];
  const steps = Math.round(TRACK_PX / TRACK_STEP_PX);
  const changes: number[] = [];
  let best = -1;
  let step: Colour = [0, 0, 0];
  for (let k = -steps; k <= steps; k++) {
    const aside = expected + k * TRACK_STEP_PX;
    const isSeen = between(field, x + far * ox - aside * oy, y + far * oy + aside * ox, -ty, tx, out);
    if (!isSeen && k === 0) return undefined;
    changes.push(isSeen ? contrast[0] * out[0]! + contrast[1] * out[1]! + contrast[2] * out[2]! : 0);
    // Of two that are as strong the nearer one is meant.
    const nearness = 1 - 0.05 * Math.abs(k);
    if (best < 0 || changes[k + steps]! * nearness > changes[best]! * (1 - 0.05 * Math.abs(best - steps))) {
      best = k + steps;
      step = [out[0]!, out[1]!, out[2]!];
    }
  }
  const by = changes[best]!;
  const [before, after] = [changes[best - 1] ?? by, changes[best + 1] ?? by];
  const curve = before - 2 * by + after;
  const shift = curve < 0 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * curve))) : 0;
  return { aside: expected + (best - steps + shift) * TRACK_STEP_PX, by, step };
}

/** The parabola, or else the line, that fits what was seen, by weighted least squares. */
function fitted(
  seen: readonly { far: number; aside: number; weight: number }[],
  bends: boolean,
): { aside: number; slope: number; bend: number } {
  const terms = bends ? 3 : 2;
  const rows = Array.from({ length: terms }, () => new Float64Array(terms + 1));
  for (const { far, aside, weight } of seen) {
    const basis = [1, far, 0.5 * far * far];
    for (let r = 0; r < terms; r++) {
      for (let c = 0; c < terms; c++) rows[r]![c]! += weight * basis[r]! * basis[c]!;
      rows[r]![terms]! += weight * basis[r]! * aside;
    }
  }
  for (let r = 0; r < terms; r++) {
    for (let below = r + 1; below < terms; below++) {
      const share = rows[below]![r]! / (rows[r]![r]! || 1);
      for (let c = r; c <= terms; c++) rows[below]![c]! -= share * rows[r]![c]!;
    }
  }
  const solution = [0, 0, 0];
  for (let r = terms - 1; r >= 0; r--) {
    let sum = rows[r]![terms]!;
    for (let c = r + 1; c < terms; c++) sum -= rows[r]![c]! * solution[c]!;
    solution[r] = sum / (rows[r]![r]! || 1);
  }
  return { aside: solution[0]!, slope: solution[1]!, bend: solution[2]! };
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
