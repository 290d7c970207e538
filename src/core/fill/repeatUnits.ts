import { FingoError } from '../errors.ts';
import { applyHomography, type Homography, type Point } from '../geometry/homography.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Mask } from '../mask/mask.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { addBicubicBytes } from './bicubicSample.ts';
import { carriedSources } from './carriedSources.ts';
import { convergences } from './convergence.ts';
import { mappedSources } from './mappedSources.ts';
import { perspectiveWay, straightWay, type Convergence, type PullWay } from './pullWays.ts';
import type { Sources } from './sources.ts';

/** One way of drawing a thing out: a strip at its rear that is repeated. */
export interface RepeatUnit {
  way: PullWay;
  /** Length of the strip along the way, and how often it is repeated. */
  step: number;
  repeats: number;
  /** Mean difference, in levels, across the joints, and a little for each repeat. */
  mismatch: number;
  /** Sources whose index is the number of steps by which a pixel is carried back. */
  sources(indexAt: (x: number, y: number) => number): Sources;
}

/** The repeated strip is at least this share of the marked end along the pull, and at least so many px long. */
const SHORTEST_SHARE = 0.3;
const SHORTEST_PX = 8;
/** A repeat may be so many px longer or shorter, and shifted sideways, so that its pattern stays in step. */
const SLACK_PX = 10;
const SIDEWAYS_PX = 3;
/** But no more than this share of a long pull, where perspective makes px cheap. */
const LARGEST_SLACK_SHARE = 0.25;
/** Towards the horizon a px is a long way: so many numbers of repeats, and so many lengths to either side, are tried. */
const MAX_WAYS = 7;
const MAX_STEPS = 60;
/** Px to each side of a joint that are compared; of more pixels an even sample. */
const JOINT_PX = 6;
const MAX_COMPARED = 4000;
/** Of strips that end less than this apart only the better is offered. */
const APART_PX = 4;
/** What each repeat costs: longer strips hide better. */
const REPEAT_COST = 0.15;
/** Drawn out towards where its edges meet, a thing keeps at least this share of its way there. */
const NEAREST_SHARE = 0.15;
/** Perspective that changes sizes by less than this share over the pull is none. */
const SMALLEST_CHANGE = 0.04;
/** A plane whose vanishing line comes nearer to the mark than this does not hold it. */
const NEAREST_LINE_PX = 2;

/** Strips of one size whose length divides the pull, best match first. Throws `no-donors` where there is none. */
export function straightUnits(image: RasterImage, mark: Mask, pull: { dx: number; dy: number }): RepeatUnit[] {
  const length = Math.hypot(pull.dx, pull.dy);
  const along = { x: pull.dx / length, y: pull.dy / length };
  const extent = extentAlong(mark, straightWay(pull));
  const band = jointBand(mark, straightWay(pull), extent);
  const units = new Map<string, RepeatUnit>();
  for (const { by, repeats } of lengthsFor(length, extent)) {
    for (let sideways = -SIDEWAYS_PX; sideways <= SIDEWAYS_PX; sideways++) {
      const dx = Math.round(by * along.x - sideways * along.y);
      const dy = Math.round(by * along.y + sideways * along.x);
      const key = `${dx} ${dy}`;
      if (units.has(key) || (dx === 0 && dy === 0)) continue;
      // Sideways shifts bend what should be straight.
      const apart = shiftedMismatch(image, band, dx, dy) * (1 + 0.04 * Math.abs(sideways));
      if (!Number.isFinite(apart)) continue;
      const offsets = Array.from({ length: repeats + 1 }, (_, k) => ({ dx: -k * dx, dy: -k * dy }));
      units.set(key, {
        way: straightWay({ dx, dy }),
        step: Math.hypot(dx, dy),
        repeats,
        mismatch: apart + REPEAT_COST * repeats,
        sources: (indexAt) => carriedSources(image, new Uint8Array(image.width * image.height), offsets, indexAt),
      });
    }
  }
  const best = bestApart([...units.values()]);
  if (best.length === 0) {
    throw new FingoError(
      'no-donors',
      'Too little of the thing is marked to go on from; mark a longer piece of its end, or pull less far.',
    );
  }
  return best;
}

/**
 * Strips that become smaller or larger with the thing's converging edges, in whichever perspective it repeats best;
 * undefined where none shows that matters for the pull. Where planes are given, only theirs are considered.
 */
export function perspectiveUnits(
  image: RasterImage,
  mark: Mask,
  pull: { dx: number; dy: number },
  planes?: readonly PlaneCorners[],
): RepeatUnit[] | undefined {
  const found = convergences(image, mark, pull, planes).flatMap((convergence) => {
    const drawn = drawnIn(convergence, mark, pull, planes !== undefined);
    const units = drawn ? unitsAlong(image, mark, drawn) : [];
    return units.length > 0 ? [units] : [];
  });
  return found.sort(([a], [b]) => a!.mismatch - b!.mismatch)[0];
}

/**
 * The way in perspective along which a mark is pulled, and how far; undefined where the plane does not hold it. Nothing is
 * pulled past the point where its edges meet: unless that was set, they meet there by chance.
 */
function drawnIn(
  { meeting, line }: Convergence,
  mark: Mask,
  pull: { dx: number; dy: number },
  isSet: boolean,
): DrawnOut | undefined {
  const { width, height } = mark;
  const extent = aroundLine(mark, (x, y) => line[0] * x + line[1] * y + line[2]);
  if (!extent) return undefined;
  const { middle, away, nearest, farthest } = extent;
  const isTowards = (meeting.x - middle.x) * pull.dx + (meeting.y - middle.y) * pull.dy > 0;
  /** On the way through the mark's middle, so far from the line. */
  const onWay = (distance: number): Point => ({
    x: meeting.x + ((middle.x - meeting.x) * distance) / away,
    y: meeting.y + ((middle.y - meeting.y) * distance) / away,
  });
  const [rear, front] = isTowards ? [onWay(farthest), onWay(nearest)] : [onWay(nearest), onWay(farthest)];
  const corners = [0, width].flatMap((x) => [0, height].map((y) => Math.hypot(x - meeting.x, y - meeting.y)));
  const way = perspectiveWay({ meeting, line }, rear, isTowards, Math.max(...corners));
  const toMeeting = { x: meeting.x - front.x, y: meeting.y - front.y };
  const distance = Math.hypot(toMeeting.x, toMeeting.y);
  const share = 1 - (toMeeting.x * pull.dx + toMeeting.y * pull.dy) / distance ** 2;
  if (Math.abs(1 - share) < SMALLEST_CHANGE || (!isSet && share <= 0)) return undefined;
  const kept = Math.max(NEAREST_SHARE, share);
  const to = { x: meeting.x - kept * toMeeting.x, y: meeting.y - kept * toMeeting.y };
  const length = way.along(to.x, to.y) - way.along(front.x, front.y);
  const sizeThere = Math.hypot(to.x - meeting.x, to.y - meeting.y) / Math.hypot(rear.x - meeting.x, rear.y - meeting.y);
  return { way, length, pxThere: sizeThere ** 2 };
}

interface DrawnOut {
  way: PullWay;
  /** How far the mark is pulled along the way. */
  length: number;
  /** How many px a length of 1 measures where the pull ends. */
  pxThere: number;
}

interface AroundLine {
  /** The mark's middle, and how far it is from the line. */
  middle: Point;
  away: number;
  /** The least and the greatest distance of a marked pixel. */
  nearest: number;
  farthest: number;
}

/** How a mark lies to a line, with distances of one sign; undefined where it lies on both sides of it. */
function aroundLine({ width, data }: Mask, fromLine: (x: number, y: number) => number): AroundLine | undefined {
  let [low, high, x, y, count] = [Infinity, -Infinity, 0, 0, 0];
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    const at = { x: (i % width) + 0.5, y: Math.floor(i / width) + 0.5 };
    const away = fromLine(at.x, at.y);
    low = Math.min(low, away);
    high = Math.max(high, away);
    x += at.x;
    y += at.y;
    count++;
  }
  const middle = { x: x / count, y: y / count };
  const away = fromLine(middle.x, middle.y);
  if (low >= NEAREST_LINE_PX) return { middle, away, nearest: low, farthest: high };
  return high <= -NEAREST_LINE_PX ? { middle, away, nearest: high, farthest: low } : undefined;
}

function unitsAlong(image: RasterImage, mark: Mask, { way, length, pxThere }: DrawnOut): RepeatUnit[] {
  const extent = extentAlong(mark, way);
  const band = jointBand(mark, way, extent);
  const units = lengthsFor(length, extent, pxThere).map(({ by, repeats }): RepeatUnit => ({
    way,
    step: by,
    repeats,
    mismatch: mappedMismatch(image, band, way.carry(by)) + REPEAT_COST * repeats,
    sources: (indexAt) =>
      mappedSources(
        image,
        Array.from({ length: repeats + 1 }, (_, k) => way.carry(-k * by)),
        indexAt,
      ),
  }));
  return bestApart(units);
}

/**
 * Lengths near a whole fraction of the pull, that the marked end has room for: so many px more or fewer where the pull
 * ends, to the px where it begins or ends, whichever is finer.
 */
function lengthsFor(length: number, { rear, front }: Extent, pxThere = 1): { by: number; repeats: number }[] {
  const longest = Math.max(SHORTEST_PX, front - rear - 2 * JOINT_PX);
  const finest = 1 / Math.max(1, pxThere);
  const most = Math.min(SLACK_PX / pxThere, Math.max(SLACK_PX, LARGEST_SLACK_SHARE * length));
  const shortest = Math.max(SHORTEST_PX * finest, SHORTEST_SHARE * longest);
  const fewest = Math.max(1, Math.ceil(length / longest));
  const last = Math.max(fewest, Math.min(fewest + MAX_WAYS, Math.floor(length / shortest)));
  const found: { by: number; repeats: number }[] = [];
  for (let repeats = fewest; repeats <= last; repeats++) {
    // Half a px of a strip's length is fine enough.
    const step = Math.max(1, repeats / 2) * finest;
    const slack = Math.min(most, MAX_STEPS * step);
    for (let change = -slack; change <= slack; change += step) {
      const by = (length + change) / repeats;
      if (by >= SHORTEST_PX * finest && by <= longest + SLACK_PX) found.push({ by, repeats });
    }
  }
  return found;
}

/** The best first; those close to a better one left out. */
function bestApart(units: readonly RepeatUnit[]): RepeatUnit[] {
  const sorted = units.filter(({ mismatch }) => Number.isFinite(mismatch)).sort((a, b) => a.mismatch - b.mismatch);
  const end = ({ way, step }: RepeatUnit): Point => applyHomography(way.carry(step), 0, 0);
  return sorted.filter(
    (unit, k) =>
      !sorted.slice(0, k).some((better) => {
        const [a, b] = [end(unit), end(better)];
        return unit.way === better.way
          ? Math.abs(unit.step - better.step) < APART_PX
          : Math.hypot(a.x - b.x, a.y - b.y) < APART_PX;
      }),
  );
}

/**
 * How far along the way the first repeat begins: a step in front of the rear end or farther on in the mark, where what it
 * shows meets the picture best. A joint in the middle of a board is not seen, one at its edge is.
 */
export function bestJoint(image: RasterImage, mark: Mask, { way, step }: RepeatUnit): number {
  const { width, height, data } = image;
  const { rear, front } = extentAlong(mark, way);
  const first = rear + step;
  const count = Math.max(1, Math.floor(Math.min(front - JOINT_PX - first, step)));
  const sums = new Float64Array(count);
  const counts = new Float64Array(count);
  const back = way.carry(-step);
  for (let i = 0; i < mark.data.length; i++) {
    if (mark.data[i]! < 128) continue;
    const at = { x: (i % width) + 0.5, y: Math.floor(i / width) + 0.5 };
    const bin = Math.floor(way.along(at.x, at.y) - first);
    if (bin < 0 || bin >= count) continue;
    const from = applyHomography(back, at.x, at.y);
    const [u, v] = [Math.floor(from.x), Math.floor(from.y)];
    if (u < 0 || v < 0 || u >= width || v >= height) continue;
    for (let c = 0; c < 3; c++) sums[bin]! += Math.abs(data[4 * i + c]! - data[4 * (v * width + u) + c]!);
    counts[bin]!++;
  }
  let [best, least] = [0, Infinity];
  for (let bin = 0; bin < count; bin++) {
    // Both sides of a joint are seen.
    const [low, high] = [Math.max(0, bin - 1), Math.min(count - 1, bin + 1)];
    const around = (sums[low]! + sums[bin]! + sums[high]!) / (counts[low]! + counts[bin]! + counts[high]!);
    if (around < least) [best, least] = [bin, around];
  }
  return first + best;
}

interface Extent {
  /** The lowest and highest distance along the way that the mark covers. */
  rear: number;
  front: number;
}

/** Throws `nothing-marked`. */
function extentAlong({ width, data }: Mask, way: PullWay): Extent {
  let rear = Infinity;
  let front = -Infinity;
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    const t = way.along((i % width) + 0.5, Math.floor(i / width) + 0.5);
    rear = Math.min(rear, t);
    front = Math.max(front, t);
  }
  if (front < rear) throw new FingoError('nothing-marked', 'Nothing is marked; draw around the end of the thing.');
  return { rear, front };
}

/** Marked pixels within a joint's reach of the line across the way just in front of the mark's rear end. */
function jointBand({ width, data }: Mask, way: PullWay, { rear }: Extent): Int32Array {
  const found: number[] = [];
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    const t = way.along((i % width) + 0.5, Math.floor(i / width) + 0.5);
    if (t - rear <= 2 * JOINT_PX) found.push(i);
  }
  const every = Math.ceil(found.length / MAX_COMPARED);
  return Int32Array.from(found.filter((_, k) => k % every === 0));
}

/** Mean difference between a band and what lies (dx, dy) on from it; infinite where that leaves the picture. */
function shiftedMismatch({ width, height, data }: RasterImage, band: Int32Array, dx: number, dy: number): number {
  let sum = 0;
  for (const i of band) {
    const x = (i % width) + dx;
    const y = Math.floor(i / width) + dy;
    if (x < 0 || y < 0 || x >= width || y >= height) return Infinity;
    const j = y * width + x;
    for (let c = 0; c < 3; c++) sum += Math.abs(data[4 * i + c]! - data[4 * j + c]!);
  }
  return band.length > 0 ? sum / (3 * band.length) : Infinity;
}

/** The same for what lies where a map leads. */
function mappedMismatch({ width, height, data }: RasterImage, band: Int32Array, map: Homography): number {
  const colour = new Float32Array(3);
  let sum = 0;
  for (const i of band) {
    const { x, y } = applyHomography(map, (i % width) + 0.5, Math.floor(i / width) + 0.5);
    if (!(x >= 0 && y >= 0 && x < width && y < height)) return Infinity;
    colour.fill(0);
    addBicubicBytes(data, width, height, x, y, 1, colour);
    for (let c = 0; c < 3; c++) sum += Math.abs(data[4 * i + c]! - colour[c]!);
  }
  return band.length > 0 ? sum / (3 * band.length) : Infinity;
}
