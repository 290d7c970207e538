import type { Point } from '../geometry/homography.ts';
import { cropImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { bandFrame } from './bandFrame.ts';
import { FROM_PX, weightOf, type Colour, type Crossing } from './crossing.ts';
import { seenAround } from './crossingsAround.ts';
import { changeAcross, edgeField, type EdgeField } from './edgeField.ts';
import type { Join } from './joinCrossings.ts';
import type { Outlines } from './runOnLines.ts';

/** How outlines that reach the rim of a rebuilt place go on in it. */
export interface LineMeasures {
  /** How many of them stop, step or bend, by weight: 0 = all go on, 1 = none does. */
  lineError: number;
}

/** How what goes on is told; lengths in px of the picture that crossings were found in. */
const STOPPED_OPTIONS = {
  /** Inside the rim an outline is looked for over so many px, from `FROM_PX` on. */
  over: 12,
  /** It may lie so many px aside of where it is expected, in steps of half a px, and turn by so much, in so many steps. */
  aside: 1.5,
  turn: 0.12,
  turns: 2,
  /** Along a join it may lie so many px aside. */
  asideOfJoin: 2,
  /** The weight of a join is what speaks for it times this, and its strength. */
  joined: 8,
  /** Little speaks against a take by itself: this much is added to the weight of all. */
  little: 60,
};
type StoppedOptions = typeof STOPPED_OPTIONS;

/**
 * Measures how the outlines that reach the rim of a place go on in `rebuilt`, the RGBA of `box`: half by how each is seen
 * just inside the rim, half by how those that were joined are seen all the way.
 */
export function measureLines(
  image: RasterImage,
  box: Rect,
  rebuilt: RasterImage,
  { crossings, factor, joins }: Outlines,
  options: StoppedOptions = STOPPED_OPTIONS,
): LineMeasures {
  if (crossings.length === 0) return { lineError: 0 };
  const seen = seenAround(image, box, factor, 2 * FROM_PX);
  const picture = cropImage(image, seen);
  pasteImage(picture, { x: box.x - seen.x, y: box.y - seen.y }, rebuilt);
  const field = edgeField(picture, new Uint8Array(seen.width * seen.height), factor);
  const atRim = new LostWeight(options.little);
  for (const crossing of crossings)
    atRim.add(weightOf(crossing), seenInside(field, movedTo(seen, crossing, factor), options));
  const along = new LostWeight(options.little);
  for (const join of joins) {
    const weight = options.joined * join.value * Math.sqrt(join.from.strength * join.to.strength);
    along.add(weight, joinSeenIn(field, join, seen, factor, false, options));
  }
  return { lineError: (atRim.share + along.share) / 2 };
}

/** Which share of a weight is lost. */
class LostWeight {
  private lost = 0;
  constructor(private all: number) {}
  add(weight: number, kept: number): void {
    this.all += weight;
    this.lost += weight * (1 - kept);
  }
  get share(): number {
    return this.lost / this.all;
  }
}

/** How strongly an outline is seen inside the rim where it is expected: 0 = not at all, 1 = as strongly as outside. */
function seenInside(field: EdgeField, crossing: Crossing, { over, aside, turn, turns }: StoppedOptions): number {
  const { x, y, outX, outY, curvature, step } = crossing;
  const change = new Float64Array(3);
  const steps = Math.round(2 * aside);
  let best = 0;
  for (let k = -steps; k <= steps; k++) {
    for (let j = -turns; j <= turns; j++) {
      const slope = (j * turn) / turns;
      let [sum, count] = [0, 0];
      for (let far = -FROM_PX; far > -FROM_PX - over; far--) {
        const off = k / 2 + slope * far + 0.5 * curvature * far * far;
        const bent = slope + curvature * far;
        const [tx, ty] = [outX - bent * outY, outY + bent * outX];
        const [u, v] = [x + far * outX - off * outY, y + far * outY + off * outX];
        if (!changeAcross(field, u, v, -ty, tx, change)) break;
        sum += likeness(change, step);
        count++;
      }
      if (count > 0) best = Math.max(best, sum / count);
    }
  }
  return Math.min(1, best);
}

/** A crossing in reduced px of a part of the picture. */
const movedTo = (part: Point, crossing: Crossing, factor: number): Crossing => ({
  ...crossing,
  x: crossing.x - part.x / factor,
  y: crossing.y - part.y / factor,
});

/**
 * How strongly a joined outline is seen in the field of a part of the picture, on average over all of its way: 0 to 1.
 * `eitherWay`: also where dark and light change sides, as along a chequered floor's joints.
 */
export function joinSeenIn(
  field: EdgeField,
  join: Join,
  part: Point,
  factor: number,
  eitherWay = false,
  { asideOfJoin }: StoppedOptions = STOPPED_OPTIONS,
): number {
  const moved = { ...join, from: movedTo(part, join.from, factor), to: movedTo(part, join.to, factor) };
  const frame = bandFrame({ joins: [moved] }, 1);
  const change = new Float64Array(3);
  let [sum, count] = [0, 0];
  for (let s = FROM_PX; s < frame.length - FROM_PX; s++) {
    const { x, y } = frame.along(s);
    let best = 0;
    for (let t = -asideOfJoin; t <= asideOfJoin; t += 0.5) {
      const at = frame.at(s, t);
      // On the way in the sides are the other way round.
      if (!changeAcross(field, at.x, at.y, y, -x, change)) continue;
      const like = likeness(change, join.from.step);
      best = Math.max(best, eitherWay ? Math.abs(like) : like);
    }
    sum += Math.min(1, best);
    count++;
  }
  return count > 0 ? sum / count : 1;
}

/** How much of a change of colour another one has. */
const likeness = (change: ArrayLike<number>, step: Colour): number =>
  (change[0]! * step[0] + change[1]! * step[1] + change[2]! * step[2]) /
  (step[0] * step[0] + step[1] * step[1] + step[2] * step[2]);
