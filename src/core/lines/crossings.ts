import type { RimPath } from '../fill/rimPath.ts';
import type { EdgeField } from './edgeField.ts';
import {
  CROSSING_OPTIONS,
  FROM_PX,
  MAX_ALONG_RIM_PX,
  asideOf,
  weightOf,
  type Candidate,
  type Colour,
  type Crossing,
  type CrossingOptions,
} from './crossing.ts';
import { followOutline } from './followOutline.ts';

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

const dot = (a: Colour, b: Colour): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

const wrapped = (angle: number): number => Math.atan2(Math.sin(angle), Math.cos(angle));
