import { weightOf, type Crossing } from './crossing.ts';
import type { Join } from './joinCrossings.ts';

/** How outlines without a partner go on; lengths in px of the picture that crossings were found in. */
const OPEN_OPTIONS = {
  /** Only what was seen so far, and changes by so many levels a px, goes on by itself. */
  seen: 50,
  strength: 7,
  /** Two that meet do so at no less than this, radians, and no farther away than so many times what was seen of both. */
  leastAngle: 0.4,
  farthest: 2,
  /** What would end nearer to the rim is as well filled without. */
  shortest: 12,
  /** A third ends where two meet if it passes so near. */
  near: 5,
};

/** Whether a place, in px of the picture that crossings were found in, is to be drawn. */
type IsOpen = (x: number, y: number) => boolean;

/**
 * Ends for outlines that were not joined: those that meet in the hole, going on straight, end there (a room's corner, a
 * gable). As joins of whose other end nothing is seen; each leads from its crossing.
 */
export function meetingEnds(crossings: readonly Crossing[], joins: readonly Join[], isOpen: IsOpen): Join[] {
  const { seen, strength, leastAngle, farthest, shortest, near } = OPEN_OPTIONS;
  const joined = new Set(joins.flatMap(({ from, to }) => [from, to]));
  const open = crossings.filter(
    (crossing) => !joined.has(crossing) && crossing.length >= seen && crossing.strength >= strength,
  );
  const meetings: { a: Crossing; b: Crossing; x: number; y: number; score: number }[] = [];
  for (const [k, a] of open.entries()) {
    for (const b of open.slice(k + 1)) {
      const cross = a.outX * b.outY - a.outY * b.outX;
      if (Math.abs(cross) < Math.sin(leastAngle)) continue;
      const [dx, dy] = [b.x - a.x, b.y - a.y];
      const [farA, farB] = [-(dx * b.outY - dy * b.outX) / cross, -(dx * a.outY - dy * a.outX) / cross];
      if (farA < shortest || farB < shortest || farA + farB > farthest * (a.length + b.length)) continue;
      const [x, y] = [a.x - farA * a.outX, a.y - farA * a.outY];
      if (!isOpenTo(a, farA, isOpen) || !isOpenTo(b, farB, isOpen)) continue;
      const score = (weightOf(a) + weightOf(b)) / (1 + (farA + farB) / (a.length + b.length));
      meetings.push({ a, b, x, y, score });
    }
  }
  meetings.sort((p, q) => q.score - p.score);
  const ends = new Map<Crossing, Join>();
  for (const { a, b, x, y } of meetings) {
    if (ends.has(a) || ends.has(b)) continue;
    for (const each of [a, b]) ends.set(each, endingAt(each, x, y));
  }
  // A third one, into the same corner.
  const corners = [...ends.values()].map(({ to }) => to);
  for (const third of open) {
    if (ends.has(third)) continue;
    const corner = corners.find(({ x, y }) => {
      const far = -((x - third.x) * third.outX + (y - third.y) * third.outY);
      const aside = Math.abs((x - third.x) * third.outY - (y - third.y) * third.outX);
      return far > shortest && far < farthest * third.length && aside < near && isOpenTo(third, far, isOpen);
    });
    if (corner) ends.set(third, endingAt(third, corner.x, corner.y));
  }
  return [...ends.values()];
}

function isOpenTo({ x, y, outX, outY }: Crossing, far: number, isOpen: IsOpen): boolean {
  for (let k = 3; k < far; k += 3) if (!isOpen(x - k * outX, y - k * outY)) return false;
  return true;
}

/** A join that ends where nothing is seen of it. */
const endingAt = (from: Crossing, x: number, y: number): Join => ({
  from,
  to: { ...from, x, y, outX: -from.outX, outY: -from.outY, curvature: 0, length: 0 },
  value: Math.min(1, weightOf(from) / 100),
});
