import { applyHomography, type Point } from '../geometry/homography.ts';
import type { Rect } from '../image/rect.ts';
import { CELL_PX } from './cells.ts';
import { hueContrasts, materialEdge, type PlacedHue, type Square } from './materialEdge.ts';
import type { Candidate, Rectangle } from './planeCandidate.ts';
import { cross, type ProjectivePoint } from './vanishingPoints.ts';

/** A plane with an assumed direction must be so much better supported than one whose directions both show. */
const ASSUMED_HANDICAP = 1.5;
/** Cuts between two planes whose gain reaches this share of the best are as good. */
const ALMOST_BEST = 0.9;
/** Two planes through one direction are a wall and the ground before it if their scales change so differently. */
const OTHER_SLOPE = 1.5;
/** On its own side of their edge each of two planes must be so much better supported than the other. */
const DISTINCT = 4;
/** How much larger the near end of a hole's surroundings must be drawn than the far end for the plane to matter. */
export const SMALLEST_GRADIENT = 1.1;
/** And where one of its directions is only assumed. */
const SMALLEST_ASSUMED_GRADIENT = 1.12;

/**
 * The best supported candidate and, if another shares its first direction (a wall and the ground before it), that one
 * too, both cut off along the line of that direction that parts their materials or, where these look alike, their
 * supports best.
 */
export function nonOverlapping(candidates: readonly Candidate[], hole: Rect, squares: readonly Square[]): Candidate[] {
  const mostShown = Math.max(0, ...candidates.filter(({ second }) => second.density).map(({ support }) => support));
  const usable = candidates.filter(
    ({ second, support, gradient }) =>
      second.density || (gradient >= SMALLEST_ASSUMED_GRADIENT && support > ASSUMED_HANDICAP * mostShown),
  );
  const [best, ...others] = [...usable].sort((p, q) => q.worth - p.worth);
  if (!best) return [];
  const [right, bottom] = [hole.x + hole.width, hole.y + hole.height];
  const along = new Lines(best.first.point, { x: (hole.x + right) / 2, y: (hole.y + bottom) / 2 });
  const heights = best.near.map(({ x, y }) => along.heightOf(x, y));
  const [lowest, highest] = [Math.min(...heights), Math.max(...heights)];
  const around = squares
    .map(({ x, y, hue }) => ({ height: along.heightOf(x, y), along: along.alongOf(x, y), hue }))
    .filter(({ height }) => height >= lowest && height <= highest);
  // An edge that does not come near the hole parts nothing in it.
  const atCorners = [hole.x, right].flatMap((x) => [hole.y, bottom].map((y) => along.heightOf(x, y)));
  const edge = materialEdge(around, [Math.min(...atCorners), Math.max(...atCorners)]);
  const sharing = others.filter(({ first, second }) => first === best.first && second !== best.second);
  if (edge !== undefined) return partAt(edge, best, sharing, along);
  return sharing[0] ? partBySupport(best, sharing[0], around, along) : [best];
}

/** Both planes, cut off where their supports change and hues differ most; only one where they are not distinct. */
function partBySupport(best: Candidate, other: Candidate, around: readonly PlacedHue[], along: Lines): Candidate[] {
  const cuts = best.near
    .map(({ x, y, strength }, k) => ({ height: along.heightOf(x, y), advantage: strength - other.near[k]!.strength }))
    .sort((p, q) => p.height - q.height);
  const total = cuts.reduce((sum, { advantage }) => sum + advantage, 0);
  let below = 0;
  // Advantage of the best below each cut, and of the other above it.
  const gains = cuts.map(({ advantage }) => 2 * (below += advantage) - total);
  const bestIsBelow = Math.max(...gains) >= -Math.min(...gains);
  const sign = bestIsBelow ? 1 : -1;
  const most = Math.max(...gains.map((gain) => sign * gain));
  // Of cuts that are nearly as good the one between the least alike hues.
  const asGood = cuts.filter((_, k) => sign * gains[k]! >= ALMOST_BEST * most).map(({ height }) => height);
  const contrasts = hueContrasts(around);
  const [first, last] = [asGood[0]!, asGood.at(-1)!];
  const at = contrasts
    .filter(({ height }) => height >= first && height <= last)
    .reduce((p, q) => (q.contrast > p.contrast ? q : p), { height: asGood[asGood.length >> 1]!, contrast: -1 }).height;
  const ownSide = best.near.map(({ x, y }) => along.heightOf(x, y) <= at === bestIsBelow);
  const strengthOf = (candidate: Candidate, onSide: boolean): number =>
    candidate.near.reduce((sum, { strength }, k) => sum + (ownSide[k] === onSide ? strength : 0), 0);
  const isDistinct =
    strengthOf(best, true) > DISTINCT * strengthOf(other, true) &&
    strengthOf(other, false) > DISTINCT * strengthOf(best, false);
  if (!isDistinct) return [[best, other].find(({ gradient }) => gradient >= SMALLEST_GRADIENT) ?? best];
  return [cutOff(best, at, bestIsBelow, along), cutOff(other, at, !bestIsBelow, along)].filter(
    (candidate) => candidate !== undefined,
  );
}

/**
 * Two planes that meet at an edge, or one that ends there. What is seen steeply (the ground) reaches from the edge
 * towards the eye, what is seen square on (a wall) stands behind.
 */
function partAt(edge: number, best: Candidate, sharing: readonly Candidate[], along: Lines): Candidate[] {
  const other = sharing.find(
    ({ gradient }) => Math.max(gradient / best.gradient, best.gradient / gradient) >= OTHER_SLOPE,
  );
  const here = along.at(edge);
  const beyond = along.at(edge + 1);
  const growsUpwards = ({ frame }: Candidate): boolean =>
    frame.nearness(beyond.x, beyond.y) > frame.nearness(here.x, here.y);
  if (!other) {
    const below = strengthWhere(best, (x, y) => along.heightOf(x, y) <= edge);
    const isBelow = below > strengthWhere(best, () => true) / 2;
    return [endedAt(edge, best, isBelow, along) ?? best];
  }
  const steep = best.gradient > other.gradient ? best : other;
  const steepIsBelow = !growsUpwards(steep);
  return [best, other]
    .map((candidate) => endedAt(edge, candidate, steepIsBelow === (candidate === steep), along))
    .filter((candidate) => candidate !== undefined);
}

/** What of a candidate lies below or above an edge of its material. */
function endedAt(edge: number, candidate: Candidate, isBelow: boolean, along: Lines): Candidate | undefined {
  const cut = cutOff(candidate, edge, isBelow, along);
  return cut && { ...cut, edge: along.through(edge, isBelow) };
}

/** Lines of one direction, told apart by the height at which they cut the normal through a picture's point. */
class Lines {
  readonly normal: Point;

  constructor(
    private readonly direction: ProjectivePoint,
    private readonly middle: Point,
  ) {
    const towards = { x: direction[0] - direction[2] * middle.x, y: direction[1] - direction[2] * middle.y };
    const length = Math.hypot(towards.x, towards.y);
    this.normal = { x: -towards.y / length, y: towards.x / length };
  }

  heightOf(x: number, y: number): number {
    const line = cross(this.direction, [x, y, 1]);
    const slope = line[0] * this.normal.x + line[1] * this.normal.y;
    return -(line[0] * this.middle.x + line[1] * this.middle.y + line[2]) / slope;
  }

  /** How far a point lies along the lines. */
  alongOf(x: number, y: number): number {
    return (x - this.middle.x) * this.normal.y - (y - this.middle.y) * this.normal.x;
  }

  /** The line at a height: its coefficients give more than 0 below it, or above. */
  through(height: number, isBelow: boolean): ProjectivePoint {
    const { x, y } = this.at(height);
    const line = cross(this.direction, [x, y, 1]);
    const below = this.at(height - 1);
    const isAboveZero = line[0] * below.x + line[1] * below.y + line[2] > 0;
    return isAboveZero === isBelow ? line : [-line[0], -line[1], -line[2]];
  }

  at(height: number): Point {
    return { x: this.middle.x + height * this.normal.x, y: this.middle.y + height * this.normal.y };
  }
}

/** What of a candidate lies below or above a height; undefined where nothing is left. */
function cutOff(candidate: Candidate, height: number, isBelow: boolean, along: Lines): Candidate | undefined {
  const { toPlane } = candidate.frame;
  const edge = along.at(height);
  const t = applyHomography(toPlane, edge.x, edge.y).y;
  const step = applyHomography(toPlane, edge.x + along.normal.x, edge.y + along.normal.y).y - t;
  const rectangle: Rectangle = [...candidate.rectangle];
  // Heights below the cut are the smaller ones; along the plane they may run either way.
  if (step > 0 === isBelow) rectangle[3] = Math.min(rectangle[3], t);
  else rectangle[2] = Math.max(rectangle[2], t);
  return rectangle[3] - rectangle[2] > CELL_PX ? { ...candidate, rectangle } : undefined;
}

const strengthWhere = ({ near }: Candidate, isIn: (x: number, y: number) => boolean): number =>
  near.reduce((sum, { x, y, strength }) => sum + (isIn(x, y) ? strength : 0), 0);
