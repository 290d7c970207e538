import { endOf, type End } from './bandFrame.ts';
import { FROM_PX, weightOf } from './crossing.ts';
import type { Crossings } from './crossingsAround.ts';
import { changeAcross } from './edgeField.ts';

/** How what is expected at an end is fitted to what is seen; lengths in px of the picture that crossings were found in. */
const FIT_OPTIONS = {
  /** A crossing may pass so far from where an outline is expected, so much askew (radians); what is nearer is likelier. */
  farthest: 10,
  near: 3,
  askew: 0.9,
  /** Both outlines of a band, and where no crossings fit what is expected and seen, are so parallel. */
  parallel: 0.15,
  /** A band may be wider or narrower than it is expected by this share. */
  wider: 0.3,
  /** Where no crossings fit, outlines are where colours change most, whichever way, over so many px. */
  over: 24,
  /** Where they change by fewer levels a px nothing is seen. */
  weakest: 4,
};

/** Both outlines of a band of that width about a way out of the hole, from the left to the right of the band's own way. */
export function beside(end: End, width: number, inward: 1 | -1): [End, End] {
  return [asideOf(end, (-inward * width) / 2), asideOf(end, (inward * width) / 2)];
}

/** So many px to the left of a way out, which is to the right of the way in. */
const asideOf = (end: End, by: number): End => ({ ...end, x: end.x + by * end.outY, y: end.y - by * end.outX });

/**
 * The same, as they are seen: as crossings, else where both are steepest, else the one that is seen and another beside it;
 * undefined where nothing is.
 */
export function outlinesAt(end: End, width: number, inward: 1 | -1, seen: Crossings): [End, End] | undefined {
  const [lefts, rights] = beside(end, width, inward).map((expected) => crossingsNear(expected, seen));
  const pair = likeliestPair(lefts!, rights!, width);
  if (pair) return pair;
  const steepest = steepestNear(end, width, seen);
  if (steepest) return beside(steepest.end, steepest.width, inward);
  const [left, right] = [lefts![0]?.end, rights![0]?.end];
  if (left) return [left, asideOf(left, inward * width)];
  return right && [asideOf(right, -inward * width), right];
}

/** A crossing that an outline may be, with how much speaks for it. */
interface Candidate {
  end: End;
  score: number;
}

/** Crossings that may be the outline expected, the likeliest first. */
function crossingsNear(expected: End, { crossings, factor }: Crossings): Candidate[] {
  const { near, farthest, askew } = FIT_OPTIONS;
  const candidates: Candidate[] = [];
  for (const crossing of crossings) {
    const turned = Math.acos(Math.min(1, crossing.outX * expected.outX + crossing.outY * expected.outY));
    if (turned > askew) continue;
    const end = endOf(crossing, factor);
    // How far it passes from where it is expected.
    const [dx, dy] = [end.x - expected.x, end.y - expected.y];
    const along = dx * end.outX + dy * end.outY;
    const aside = Math.abs(-dx * end.outY + dy * end.outX);
    if (Math.abs(along) > 2 * farthest * factor || aside > farthest * factor) continue;
    const unlike = (aside / (2 * near * factor)) ** 2 + (turned / (askew / 2)) ** 2;
    candidates.push({ end, score: Math.log(weightOf(crossing)) - unlike });
  }
  return candidates.sort((a, b) => b.score - a.score);
}

/** The two that are likeliest to belong together, one for each side. */
function likeliestPair(
  lefts: readonly Candidate[],
  rights: readonly Candidate[],
  width: number,
): [End, End] | undefined {
  const { parallel, wider } = FIT_OPTIONS;
  let [best, most] = [undefined as [End, End] | undefined, -Infinity];
  for (const { end: left, score } of lefts) {
    for (const { end: right, score: other } of rights) {
      const across = Math.abs(-(right.x - left.x) * left.outY + (right.y - left.y) * left.outX);
      const wrong = width > 0 ? (across / width - 1) / wider : Number(left !== right) * 2;
      const turned = Math.acos(Math.min(1, left.outX * right.outX + left.outY * right.outY));
      if (Math.abs(wrong) > 1) continue;
      const sum = score + other - wrong * wrong - (turned / parallel) ** 2;
      if (sum > most) [best, most] = [[left, right], sum];
    }
  }
  return best;
}

/**
 * The band near the one expected across whose outlines colours change most: those of something that changes along it, such
 * as a striped pole, are no crossings.
 */
function steepestNear(
  end: End,
  width: number,
  { factor, field, corner }: Crossings,
): { end: End; width: number } | undefined {
  const { parallel, farthest, wider, over, weakest } = FIT_OPTIONS;
  const change = new Float64Array(3);
  /** How much colours change across a way out, so far aside; 0 where too little of it is known. */
  const steepness = ({ x, y, outX, outY }: End): number => {
    let [sum, count] = [0, 0];
    for (let far = FROM_PX; far < FROM_PX + over; far++) {
      const u = (x - corner.x) / factor + far * outX;
      const v = (y - corner.y) / factor + far * outY;
      if (!changeAcross(field, u, v, -outY, outX, change)) continue;
      sum += Math.hypot(...change) / Math.sqrt(3);
      count++;
    }
    return count > over / 2 ? sum / count : 0;
  };
  let [best, most] = [undefined as { end: End; width: number } | undefined, weakest];
  const step = 0.5 * factor;
  const reach = (farthest + (wider * width) / factor / 2) * factor;
  const count = Math.round((reach + width / 2) / step);
  for (let turn = -parallel; turn <= parallel + 1e-6; turn += 0.03) {
    const turned = {
      ...end,
      outX: end.outX * Math.cos(turn) - end.outY * Math.sin(turn),
      outY: end.outX * Math.sin(turn) + end.outY * Math.cos(turn),
    };
    const found = Array.from({ length: 2 * count + 1 }, (_, k) => steepness(asideOf(turned, (k - count) * step)));
    for (let left = 0; left < found.length; left++) {
      const widest = left + Math.round(((1 + wider) * width) / step);
      for (
        let right = left + Math.round(((1 - wider) * width) / step);
        right <= widest && right < found.length;
        right++
      ) {
        const [own, middle] = [(right - left) * step, ((left + right) / 2 - count) * step];
        if (Math.abs(middle) > farthest * factor) continue;
        // Of two that are as strong the nearer one is meant.
        const unlike = Math.abs(middle) / (farthest * factor) + (width > 0 ? Math.abs(own / width - 1) / wider : 0);
        const strength = Math.min(found[left]!, found[right]!) * (1 - 0.2 * unlike);
        if (strength > most) [best, most] = [{ end: asideOf(turned, middle), width: own }, strength];
      }
    }
  }
  return best;
}
