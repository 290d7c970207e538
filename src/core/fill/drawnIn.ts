import type { Point } from '../geometry/homography.ts';
import type { Mask } from '../mask/mask.ts';
import { perspectiveWay, type Convergence, type PullWay } from './pullWays.ts';

/** Drawn out towards where its edges meet, a thing keeps at least this share of its way there. */
const NEAREST_SHARE = 0.15;
/** Perspective that changes sizes by less than this share over the pull is none. */
const SMALLEST_CHANGE = 0.04;
/** A plane whose vanishing line comes nearer to the mark than this does not hold it. */
const NEAREST_LINE_PX = 2;

/** How a mark is drawn out in perspective. */
export interface DrawnOut {
  way: PullWay;
  /** How far the mark is pulled along the way. */
  length: number;
  /** How many px a length of 1 measures where the pull ends. */
  pxThere: number;
}

/**
 * The way in perspective along which a mark is pulled, and how far; undefined where the plane does not hold it. Nothing is
 * pulled past the point where its edges meet: unless that was set, they meet there by chance.
 */
export function drawnIn(
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
