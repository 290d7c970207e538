import type { Point } from '../geometry/homography.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { inflate, isEmpty, type Rect } from '../image/rect.ts';
import { boundsOf, createMask, cropMask, pasteMask, type Mask } from '../mask/mask.ts';
import { findPlanes, type PlaneCorners } from '../planes/findPlanes.ts';
import { reduceLuma } from '../planes/reduceLuma.ts';
import { findLineSegments, type Segment } from '../planes/lineSegments.ts';
import { cross, findVanishingPoints } from '../planes/vanishingPoints.ts';
import type { Convergence } from './pullWays.ts';

const WORK_SIDE_PX = 700;
const MAX_SEGMENTS = 600;
/** Edges that run along the pull deviate from it by no more than this. */
const ALONG = Math.cos(Math.PI / 4);
/** And the point where they meet lies that much in its direction, or against it. */
const STRAIGHT_ON = Math.cos(Math.PI / 8);
const FEWEST_EDGES = 4;
/** So much of the length of those edges must run towards the meeting point. */
const SMALLEST_SHARE = 0.4;
/** And their directions must differ by so much, in radians: what is nearly parallel meets anywhere. */
const SMALLEST_SPREAD = 0.08;
/** What meets farther away than this is parallel. */
const FARTHEST_PX = 1e5;
const SEED = 1;

/** Of the mark's box so much is taken for the place whose plane is sought. */
const CORE_SHARE = 0.4;

/**
 * The perspectives in which what is marked may be drawn out along a pull: those of the planes that show around it, and
 * those in which its own edges along the pull meet, on a level and on an upright plane. Where planes are given, theirs
 * alone. In px of the picture.
 */
export function convergences(
  image: RasterImage,
  mark: Mask,
  pull: { dx: number; dy: number },
  planes?: readonly PlaneCorners[],
): Convergence[] {
  const bounds = boundsOf(mark);
  const middle = { x: bounds.x + bounds.width / 2, y: bounds.y + bounds.height / 2 };
  const isAhead = ({ meeting }: Convergence): boolean =>
    isAlong(pull, meeting.x - middle.x, meeting.y - middle.y, STRAIGHT_ON);
  if (planes) return planes.flatMap(({ corners }) => planeConvergences(corners)).filter(isAhead);
  const core = inflate(bounds, -Math.round((Math.min(bounds.width, bounds.height) * (1 - CORE_SHARE)) / 2));
  const place = createMask(image.width, image.height);
  if (!isEmpty(core)) pasteMask(place, core, createMask(core.width, core.height, 255));
  const onPlanes = findPlanes(image, place.data).flatMap(({ corners }) => planeConvergences(corners));
  const meeting = ownMeeting(image, mark, bounds, pull);
  const ofEdges: Convergence[] = meeting
    ? [
        { meeting, line: [0, 1, -meeting.y] },
        { meeting, line: [1, 0, -meeting.x] },
      ]
    : [];
  return [...onPlanes, ...ofEdges].filter(isAhead);
}

const isAlong = ({ dx, dy }: { dx: number; dy: number }, x: number, y: number, within: number): boolean =>
  Math.abs(x * dx + y * dy) > within * Math.hypot(x, y) * Math.hypot(dx, dy);

/** The two vanishing points of a plane's rectangle with the line through them; those at infinity left out. */
function planeConvergences([p0, p1, p2, p3]: PlaneCorners['corners']): Convergence[] {
  const lineThrough = (a: Point, b: Point) => cross([a.x, a.y, 1], [b.x, b.y, 1]);
  const first = cross(lineThrough(p0, p1), lineThrough(p3, p2));
  const second = cross(lineThrough(p0, p3), lineThrough(p1, p2));
  const [a, b, c] = cross(first, second);
  const length = Math.hypot(a, b);
  return [first, second].flatMap(([x, y, w]) => {
    const meeting = { x: x / w, y: y / w };
    const isFar = !(Math.hypot(meeting.x - p0.x, meeting.y - p0.y) < FARTHEST_PX);
    return isFar ? [] : [{ meeting, line: [a / length, b / length, c / length] as const }];
  });
}

/** The point in which the edges of what is marked that run along the pull meet. */
function ownMeeting(image: RasterImage, mark: Mask, bounds: Rect, pull: { dx: number; dy: number }): Point | undefined {
  const outside = cropMask(mark, bounds).data.map((value) => (value >= 128 ? 0 : 1));
  const factor = Math.max(1, Math.ceil(Math.max(bounds.width, bounds.height) / WORK_SIDE_PX));
  const { luma, hole, width, height } = reduceLuma(cropImage(image, bounds), outside, factor);
  if (width === 0 || height === 0) return undefined;
  const edges = findLineSegments(luma, hole, width, height, MAX_SEGMENTS).filter(({ x0, y0, x1, y1 }) =>
    isAlong(pull, x1 - x0, y1 - y0, ALONG),
  );
  const centre = { x: width / 2, y: height / 2 };
  const scale = Math.max(width, height);
  const limits = { fewest: FEWEST_EDGES, share: SMALLEST_SHARE, most: 1 };
  const [best] = findVanishingPoints(edges, centre, scale, SEED, limits);
  if (!best || spread(best.members.map((member) => edges[member]!)) < SMALLEST_SPREAD) return undefined;
  const [x, y, w] = best.point;
  if (Math.abs(w) < 1e-3) return undefined;
  return {
    x: bounds.x + factor * (centre.x + (scale * x) / w),
    y: bounds.y + factor * (centre.y + (scale * y) / w),
  };
}

/** By how much the directions of edges differ, in radians. */
function spread(edges: readonly Segment[]): number {
  const [first] = edges;
  if (!first) return 0;
  const reference = Math.atan2(first.y1 - first.y0, first.x1 - first.x0);
  const turns = edges.map(({ x0, y0, x1, y1 }) => {
    const turn = Math.atan2(y1 - y0, x1 - x0) - reference;
    // Edges have no sense: half a turn is none.
    return turn - Math.PI * Math.round(turn / Math.PI);
  });
  return Math.max(...turns) - Math.min(...turns);
}
