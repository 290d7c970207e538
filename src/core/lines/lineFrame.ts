import type { Point } from '../geometry/homography.ts';
import type { Size } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { frameAlong, meanEnd, type BandFrame, type End } from './bandFrame.ts';
import { CROSSING_OPTIONS } from './crossing.ts';
import type { Crossings } from './crossingsAround.ts';
import { beside, outlinesAt } from './outlinesAt.ts';
import { linePath, type RunOnLine } from './runOnLine.ts';

/** A line that ends so few px (of the picture that crossings were found in) from the rim leads to it. */
const REACH_PX = 5;
/** Its points that lie so near to an end are that end. */
const AT_END_PX = 3;

/**
 * The frame of the band along a line that was set, from where it enters the hole (not 0) to where it leaves it or ends in
 * it; undefined where it does not enter it, or begins and ends in it. Outside it is led on by the outlines that are seen
 * there, else straight.
 */
export function lineFrame(line: RunOnLine, hole: Hole, picture: Size, seen: Crossings): BandFrame | undefined {
  const { factor } = seen;
  const isIn = ({ x, y }: Point): boolean => {
    const [u, v] = [Math.floor(x), Math.floor(y)];
    return u >= 0 && v >= 0 && u < picture.width && v < picture.height && hole[v * picture.width + u] !== 0;
  };
  const isOutside = ({ x, y }: Point): boolean => x < 0 || y < 0 || x >= picture.width || y >= picture.height;
  const rough = linePath(reaching(line.points, REACH_PX * factor), 0.5);
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
  const [startWidth, stopWidth] = turned.widths;
  const atStart = outlinesAt(start, startWidth, 1, seen) ?? beside(start, startWidth, 1);
  const atStop = (isThrough && outlinesAt(stop, stopWidth, -1, seen)) || beside(stop, stopWidth, -1);
  const isBand = Math.max(startWidth, stopWidth) > 0;
  const [first, last] = [meanEnd(atStart), isThrough ? meanEnd(atStop) : stop];
  const apart = AT_END_PX * factor;
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
