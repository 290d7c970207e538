import type { Point } from '../geometry/homography.ts';
import type { Size } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { endOf, frameAlong, meanEnd, type BandFrame, type End } from './bandFrame.ts';
import { CROSSING_OPTIONS, type Crossing } from './crossing.ts';
import type { Crossings } from './crossingsAround.ts';
import { linePath, type RunOnLine } from './runOnLine.ts';

/** How a line that was set is fitted to what is seen; lengths in px of the picture that crossings were found in. */
const FIT_OPTIONS = {
  /** A line that ends so near to the rim leads to it. */
  reach: 5,
  /** A line that begins at most so far outside the rim is led on by the outlines that are seen there. */
  nearRim: 12,
  /** An outline is the line's if it meets the rim so near to it, and so much along it (radians). */
  near: 3,
  askew: 0.3,
};

/**
 * The frame of the band along a line that was set, from where it enters the hole (not 0) to where it leaves it or ends in
 * it; undefined where it does not enter it, or begins and ends in it. Led on outside by the outlines that are seen there,
 * else as it was set, then straight.
 */
export function lineFrame(
  line: RunOnLine,
  hole: Hole,
  picture: Size,
  { crossings, factor }: Crossings,
): BandFrame | undefined {
  const isIn = ({ x, y }: Point): boolean => {
    const [u, v] = [Math.floor(x), Math.floor(y)];
    return u >= 0 && v >= 0 && u < picture.width && v < picture.height && hole[v * picture.width + u] !== 0;
  };
  const isOutside = ({ x, y }: Point): boolean => x < 0 || y < 0 || x >= picture.width || y >= picture.height;
  const rough = linePath(reaching(line.points, FIT_OPTIONS.reach * factor), 0.5);
  const span = spanIn(rough, isIn);
  if (!span) return undefined;
  const [begins, ends] = [
    begun(rough, span[0], isOutside),
    begun(rough.toReversed(), rough.length - 1 - span[1], isOutside),
  ];
  if (!begins && !ends) return undefined;
  // What is seen of it leads into the hole.
  const turned = begins
    ? line
    : { points: line.points.toReversed(), widths: [line.widths[1], line.widths[0]] as const };
  const path = begins ? rough : rough.toReversed();
  const isThrough = Boolean(begins && ends);
  const from = begins ? span[0] : path.length - 1 - span[1];
  // Where it ends in the hole it is led on no farther.
  const through = begins ? span[1] : path.length - 1 - span[0];
  const to = isThrough ? through : nearestTo(path, turned.points.at(-1)!);
  const start = outEnd(path, from, 1);
  const stop = outEnd(path, to, -1);
  const fitted = (end: End, outside: number, width: number, side: 1 | -1): [End, End] | undefined =>
    outside <= FIT_OPTIONS.nearRim * factor ? outlinesAt(end, width, side, crossings, factor) : undefined;
  const [outsideStart, outsideStop] = [from / 2, (path.length - 1 - to) / 2];
  const [startWidth, stopWidth] = turned.widths;
  const atStart = fitted(start, outsideStart, startWidth, 1) ?? beside(start, startWidth, 1);
  const atStop = (isThrough && fitted(stop, outsideStop, stopWidth, -1)) || beside(stop, stopWidth, -1);
  const isBand = Math.max(startWidth, stopWidth) > 0;
  const [first, last] = [meanEnd(atStart), isThrough ? meanEnd(atStop) : stop];
  const apart = FIT_OPTIONS.near * factor;
  const inside = turned.points.filter((p) => isIn(p) && away(p, start) > apart && away(p, stop) > apart);
  const inner = linePath([first, ...inside, last], 0.5, {
    starts: { x: -first.outX, y: -first.outY },
    ends: { x: last.outX, y: last.outY },
  });
  const longest = CROSSING_OPTIONS.longest * factor;
  return frameAlong({
    start: first,
    end: last,
    before: longest,
    after: isThrough ? longest : 0,
    inner,
    outlines: isBand
      ? [
          [atStart[0], atStop[0]],
          [atStart[1], atStop[1]],
        ]
      : [[first, last]],
    beyond: 8 * factor,
  });
}

/** The points, led on straight at both ends. */
function reaching(points: readonly Point[], by: number): Point[] {
  const onFrom = (p: Point, q: Point): Point => {
    const share = by / (away(p, q) || 1);
    return { x: p.x + share * (p.x - q.x), y: p.y + share * (p.y - q.y) };
  };
  return [onFrom(points[0]!, points[1]!), ...points, onFrom(points.at(-1)!, points.at(-2)!)];
}

const away = (a: Point, b: Point): number => Math.hypot(a.x - b.x, a.y - b.y);

function nearestTo(path: readonly Point[], p: Point): number {
  let nearest = 0;
  for (const [k, at] of path.entries()) if (away(at, p) < away(path[nearest]!, p)) nearest = k;
  return nearest;
}

/** From which to which of its points a path lies in the hole, first and last. */
function spanIn(path: readonly Point[], isIn: (p: Point) => boolean): [number, number] | undefined {
  const first = path.findIndex(isIn);
  return first < 0 ? undefined : [first, path.findLastIndex(isIn)];
}

/** Whether a path comes in from where the picture is known. */
const begun = (path: readonly Point[], enters: number, isOutside: (p: Point) => boolean): boolean =>
  enters > 0 && !isOutside(path[enters - 1]!);

/** The way out of the hole at a point of a path; `inward` is 1 where the path leads in, -1 where it leads out. */
function outEnd(path: readonly Point[], at: number, inward: 1 | -1): End {
  const [a, b] = [path[Math.max(0, at - 6)]!, path[Math.min(path.length - 1, at + 6)]!];
  const size = away(a, b) || 1;
  const { x, y } = path[at]!;
  return { x, y, outX: (-inward * (b.x - a.x)) / size, outY: (-inward * (b.y - a.y)) / size, curvature: 0 };
}

/** Both outlines of a band of that width about an end, from the left to the right of the band's own way. */
function beside(end: End, width: number, inward: 1 | -1): [End, End] {
  // To the right of the way in lies what is to the left of the way out.
  const [rightX, rightY] = [inward * end.outY, -inward * end.outX];
  const at = (by: number): End => ({ ...end, x: end.x + by * rightX, y: end.y + by * rightY });
  return [at(-width / 2), at(width / 2)];
}

/** The same, as they are seen; undefined where neither is. */
function outlinesAt(
  end: End,
  width: number,
  inward: 1 | -1,
  crossings: readonly Crossing[],
  factor: number,
): [End, End] | undefined {
  const { near, askew } = FIT_OPTIONS;
  const ends = crossings.map((crossing) => endOf(crossing, factor));
  const seen = beside(end, width, inward).map((expected) => {
    let [best, least] = [undefined as End | undefined, near * factor];
    for (const own of ends) {
      if (own.outX * end.outX + own.outY * end.outY < Math.cos(askew)) continue;
      // How far it passes from where it is expected.
      const [dx, dy] = [own.x - expected.x, own.y - expected.y];
      const along = dx * own.outX + dy * own.outY;
      const aside = Math.abs(-dx * own.outY + dy * own.outX);
      if (Math.abs(along) > 4 * near * factor || aside >= least) continue;
      [best, least] = [own, aside];
    }
    return best;
  }) as [End | undefined, End | undefined];
  const [left, right] = seen;
  if (!left && !right) return undefined;
  // The outline that is not seen runs beside the other.
  const [given, other] = beside(end, width, inward);
  return [
    left ?? { ...given, outX: right!.outX, outY: right!.outY, curvature: right!.curvature },
    right ?? { ...other, outX: left!.outX, outY: left!.outY, curvature: left!.curvature },
  ];
}
