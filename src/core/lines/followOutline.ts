import { Matrix, solve } from 'ml-matrix';
import {
  FROM_PX,
  MAX_ALONG_RIM_PX,
  PROFILE_REACH,
  type Candidate,
  type Colour,
  type Crossing,
  type CrossingOptions,
} from './crossing.ts';
import { changeAcross, type EdgeField } from './edgeField.ts';

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
export function followOutline(field: EdgeField, candidate: Candidate, options: CrossingOptions): Crossing | undefined {
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
      if (seen.length === 0 && far < FROM_PX + MAX_ALONG_RIM_PX) continue;
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
  { x, y, angle }: Candidate,
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
    const isSeen = changeAcross(field, x + far * ox - aside * oy, y + far * oy + aside * ox, -ty, tx, out);
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
  const normal = Matrix.zeros(terms, terms);
  const right = Matrix.zeros(terms, 1);
  for (const { far, aside, weight } of seen) {
    const basis = [1, far, 0.5 * far * far].slice(0, terms);
    for (const [r, own] of basis.entries()) {
      for (const [c, other] of basis.entries()) normal.set(r, c, normal.get(r, c) + weight * own * other);
      right.set(r, 0, right.get(r, 0) + weight * own * aside);
    }
  }
  const [aside = 0, slope = 0, bend = 0] = solve(normal, right).to1DArray();
  return { aside, slope, bend };
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
