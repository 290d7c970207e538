import { asideOf, PROFILE_REACH, weightOf, type Crossing } from './crossing.ts';

/** Two crossings between which one outline runs, unseen. */
export interface Join {
  from: Crossing;
  to: Crossing;
  /** How much speaks for it less what speaks against it: above 0. */
  value: number;
}

/** How crossings are joined. */
export const JOIN_OPTIONS = {
  /** A hole that is crossed over fewer px is filled as well without. */
  shortest: 10,
  /** An outline turns by no more than so much to reach the chord of a join, radians. */
  mostTurn: 1.1,
  /** What it is worth to have seen an outline of this weight (levels x root px) at both ends; by its square root, up to `most`. */
  wellSeen: 80,
  worth: 3,
  mostWorth: 3.6,
  /** What it is worth that outlines seen over so many px lie as if they were one. */
  aligned: 0.8,
  alignedOver: 48,
  /**
   * Bending that the crossings don't show themselves costs by its square: so many radians over the whole join cost 1/2, and
   * more of them do for each length of a crossing seen that the join is longer. So do turns of the chord into both ends.
   */
  bend: 0.07,
  bendFar: 0.04,
  turn: 0.4,
  /**
   * Parallel outlines lie beside each other: a chord that runs askew to both ends alike, as from one board's joint to the
   * next, costs 1/2 at so many radians, more for ends that are short, whose direction is not sure.
   */
  askew: 0.04,
  askewShort: 0.8,
  /** Colours across both sides that differ by so many levels on average cost 1. */
  levels: 12,
  /** What it costs that the change across one is wholly unlike that across the other. */
  unlike: 3,
  /** What each length of what was seen that a join is longer than that costs. */
  far: 0.12,
  /** Joins that cross each other at less than this, radians, are of outlines that were mixed up. */
  leastAngle: 0.4,
  /** What is worth less than this is not joined; beside a join, by so much less. */
  least: 0.9,
  beside: 1,
  /** Beside a join is what runs within so many px of it, at one end up to so many times as far away as at the other. */
  nearest: 24,
  mostWidening: 2,
};
type JoinOptions = typeof JOIN_OPTIONS;

/** Joins crossings in pairs, the surest first; each has one partner at most. */
export function joinCrossings(crossings: readonly Crossing[], options: JoinOptions = JOIN_OPTIONS): Join[] {
  const { least, beside } = options;
  const pairs: Join[] = [];
  for (const [k, from] of crossings.entries()) {
    for (const to of crossings.slice(k + 1)) {
      const value = valueOf(from, to, options);
      if (value > least - beside) pairs.push({ from, to, value });
    }
  }
  pairs.sort((a, b) => b.value - a.value);
  const taken = new Set<Crossing>();
  const joins: Join[] = [];
  const take = (accepts: (pair: Join) => boolean): void => {
    for (const pair of pairs) {
      const { from, to } = pair;
      if (taken.has(from) || taken.has(to) || !accepts(pair)) continue;
      if (joins.some((join) => confuse(join, pair, options))) continue;
      taken.add(from).add(to);
      joins.push(pair);
    }
  };
  take(({ value }) => value > least);
  // The other outline of what one was found of.
  const sure = [...joins];
  take((pair) => sure.some((join) => runsBeside(join, pair, options)));
  return joins;
}

/** Whether one join runs close beside the other, as far from it at one end as at the other. */
function runsBeside(a: Join, b: Join, { nearest, mostWidening }: JoinOptions): boolean {
  const straight = Math.hypot(a.from.x - b.from.x, a.from.y - b.from.y);
  const turned = Math.hypot(a.from.x - b.to.x, a.from.y - b.to.y);
  const [from, to] = straight <= turned ? [b.from, b.to] : [b.to, b.from];
  // To the right of the way out at one end is to the left of it at the other.
  const [start, end] = [asideOf(a.from, from), -asideOf(a.to, to)];
  const ratio = start / end;
  return (
    Math.max(Math.abs(start), Math.abs(end)) < nearest &&
    Math.min(Math.abs(start), Math.abs(end)) > 1 &&
    ratio > 1 / mostWidening &&
    ratio < mostWidening
  );
}

/** Whether two joins cross each other askew, as no two outlines beside each other do. */
function confuse(a: Join, b: Join, { leastAngle }: JoinOptions): boolean {
  const side = (p: Crossing, q: Crossing, { x, y }: Crossing): number =>
    (q.x - p.x) * (y - p.y) - (q.y - p.y) * (x - p.x);
  const isBetween = (p: Join, q: Join): boolean => side(p.from, p.to, q.from) * side(p.from, p.to, q.to) < 0;
  if (!isBetween(a, b) || !isBetween(b, a)) return false;
  const [ax, ay, bx, by] = [a.to.x - a.from.x, a.to.y - a.from.y, b.to.x - b.from.x, b.to.y - b.from.y];
  const cosine = Math.abs(ax * bx + ay * by) / (Math.hypot(ax, ay) * Math.hypot(bx, by));
  return cosine > Math.cos(leastAngle);
}

/** What speaks for two crossings being of one outline, less what speaks against it. */
function valueOf(from: Crossing, to: Crossing, options: JoinOptions): number {
  const { shortest, mostTurn, wellSeen, worth, mostWorth, aligned, alignedOver } = options;
  const { bend, bendFar, turn, levels, unlike, far } = options;
  const [cx, cy] = [to.x - from.x, to.y - from.y];
  const chord = Math.hypot(cx, cy);
  if (chord < shortest) return -Infinity;
  const [ux, uy] = [cx / chord, cy / chord];
  // Turns from the chord into each way in; for an arc both are of the same size and bend alike.
  const start = Math.atan2(-from.outY * ux + from.outX * uy, -from.outX * ux - from.outY * uy);
  const end = Math.atan2(to.outY * ux - to.outX * uy, to.outX * ux + to.outY * uy);
  if (Math.abs(start) > mostTurn || Math.abs(end) > mostTurn) return -Infinity;
  const unlikeness = differenceOf(from, to);
  if (unlikeness > 1) return -Infinity;
  const seen = Math.min(from.length, to.length);
  const reach = chord / seen;
  // Curvature of the cubic through both, as it is bent at its ends, against what was seen there. Its tangents turn from
  // `start` to `end`; sideways is to the chord's right.
  const [s0, s1] = [Math.tan(start), Math.tan(end)];
  const bentAtStart = -(4 * s0 + 2 * s1);
  const bentAtEnd = 2 * s0 + 4 * s1;
  // Seen from its inner end a way out that bends to its right bends to the left of the way in.
  const asSeen = Math.hypot(bentAtStart + from.curvature * chord, bentAtEnd - to.curvature * chord) / 2;
  const surprise = Math.min(asSeen, Math.hypot(bentAtStart, bentAtEnd) / 2);
  // So far an arc of the curvature that was seen would turn by itself.
  const arc = ((to.curvature - from.curvature) * chord) / 4;
  const turned = Math.min(start * start + end * end, (start + arc) ** 2 + (end - arc) ** 2);
  const allowed = bend + bendFar * reach;
  const profile = profilesApart(from.profile, to.profile);
  const evidence = Math.min(mostWorth, worth * Math.sqrt(Math.sqrt(weightOf(from) * weightOf(to)) / wellSeen));
  // On an arc the chord turns from both ends to opposite sides.
  const askew = Math.abs(start + end) / 2 / (options.askew + options.askewShort / seen);
  const geometry = (surprise / allowed) ** 2 / 2 + turned / (2 * turn * turn) + askew ** 2 / 2;
  return (
    evidence +
    aligned * Math.exp(-2 * geometry) * Math.min(1, seen / alignedOver) -
    geometry -
    profile / levels -
    unlike * unlikeness -
    far * Math.max(0, reach - 1)
  );
}

/** How unlike the changes across two crossings are, of which one is seen from the other side: 0 to 2. */
function differenceOf(a: Crossing, b: Crossing): number {
  const apart = Math.hypot(a.step[0] + b.step[0], a.step[1] + b.step[1], a.step[2] + b.step[2]);
  return apart / (Math.hypot(...a.step) + Math.hypot(...b.step));
}

const MAX_APART = 60;
/** What both differ by as a whole is tone, and counts so much of the rest. */
const TONE_SHARE = 0.3;

/** Mean difference of two profiles, one seen from the other side, in levels; what lies near the outline counts most. */
function profilesApart(a: Float32Array, b: Float32Array): number {
  const differences: { c: number; weight: number; by: number }[] = [];
  const tone = [0, 0, 0];
  const weights = [0, 0, 0];
  for (let t = -PROFILE_REACH; t <= PROFILE_REACH; t++) {
    const weight = 1 / (1 + (t * t) / 16);
    for (let c = 0; c < 3; c++) {
      const by = a[3 * (t + PROFILE_REACH) + c]! - b[3 * (PROFILE_REACH - t) + c]!;
      if (Number.isNaN(by)) continue;
      differences.push({ c, weight, by });
      tone[c]! += weight * by;
      weights[c]! += weight;
    }
  }
  if (differences.length === 0) return MAX_APART;
  for (let c = 0; c < 3; c++) tone[c]! /= Math.max(1e-6, weights[c]!);
  const apart = differences.reduce(
    (sum, { c, weight, by }) => sum + weight * Math.min(MAX_APART, Math.abs(by - tone[c]!)),
    0,
  );
  const toneApart = (Math.abs(tone[0]!) + Math.abs(tone[1]!) + Math.abs(tone[2]!)) / 3;
  return apart / (weights[0]! + weights[1]! + weights[2]!) + TONE_SHARE * toneApart;
}
