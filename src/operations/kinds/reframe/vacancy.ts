import { photoToFrame, uprightCorners } from '../../../core/geometry/frameGeometry.ts';
import { applyHomography, type Point } from '../../../core/geometry/homography.ts';
import { insetQuad, type Quad } from '../../../core/geometry/insetQuad.ts';
import type { Rect, Size } from '../../../core/image/rect.ts';
import { EMPTY_MARK, type Mark, type MarkShape } from '../../marks/markSchema.ts';
import type { FrameParams, ReframeParams, Side } from './schema.ts';

/** Where the photo lies in its frame: corners clockwise from the top left, in px of the frame. */
export function photoInFrame(frame: FrameParams, photo: Size): Quad {
  const { x, y } = frame.rect;
  return uprightCorners(frame, photo).map((corner) => ({ x: corner.x - x, y: corner.y - y })) as unknown as Quad;
}

/** A quadrilateral of the photo, as it lies in its frame. */
export function throughFrame(quad: Quad, frame: FrameParams, photo: Size): Quad {
  const map = photoToFrame(frame, photo);
  return quad.map(({ x, y }) => applyHomography(map, x, y)) as unknown as Quad;
}

/** The sides of the frame on which the photo leaves some of it vacant. */
export function vacantSides(frame: FrameParams, photo: Size): Side[] {
  const quad = photoInFrame(frame, photo);
  const { width, height } = frame.rect;
  const corners = [
    { x: 0, y: 0 },
    { x: width, y: 0 },
    { x: width, y: height },
    { x: 0, y: height },
  ];
  // Clockwise from the top left, the quadrilateral's edges face up, right, down and left.
  return AROUND.filter((_, k) => {
    const [p, q] = [quad[k]!, quad[(k + 1) % 4]!];
    return corners.some((c) => (q.x - p.x) * (c.y - p.y) - (q.y - p.y) * (c.x - p.x) < -NEARLY * edgeLength(p, q));
  });
}

/** The sides in the order of the photo's corners. */
const AROUND = ['top', 'right', 'bottom', 'left'] as const;
/** Farther out than any frame. */
const BEYOND_PX = 40_000;
/** So few px of a corner may stick out before it counts as vacant. */
const NEARLY = 0.01;
const edgeLength = (p: Point, q: Point): number => Math.hypot(q.x - p.x, q.y - p.y);

/**
 * What is rebuilt of a frame, as a mark in px of the frame: on the chosen sides, everything between the photo, less a
 * rim of it, and the frame's edge, or the part of it between two shares of the way there. Nothing where nothing is vacant.
 */
export function vacancyMark(
  { frame, sides, rimPx }: Pick<ReframeParams, 'frame' | 'sides' | 'rimPx'>,
  photo: Size,
  { from = 0, to = 1 } = {},
): Mark {
  const isVacant = vacantSides(frame, photo);
  const vacant = isVacant.filter((side) => sides.includes(side));
  if (vacant.length === 0) return EMPTY_MARK;
  const quad = photoInFrame(frame, photo);
  // Beyond a side that leaves nothing vacant the photo is as good as endless.
  const inset = AROUND.map((side) => (vacant.includes(side) ? rimPx : isVacant.includes(side) ? 0 : -BEYOND_PX));
  const known = insetQuad(quad, inset as [number, number, number, number]);
  const { width, height } = frame.rect;
  const grown = (share: number): Quad => growTowards({ x: 0, y: 0, width, height }, quad, share);
  const outer = grown(to);
  const done = from > 0 ? [lasso('without', grown(from))] : [];
  const shapes = runsOf(vacant).map((run): MarkShape => lasso('also', between(outer, known, run)));
  return { ...EMPTY_MARK, shapes: [...shapes, lasso('without', known), ...done] };
}

/** The frame's rectangle drawn in towards the photo's bounds. */
function growTowards({ width, height }: Rect, quad: Quad, share: number): Quad {
  const xs = quad.map(({ x }) => x);
  const ys = quad.map(({ y }) => y);
  const towards = (from: number, to: number): number => from + share * (to - from);
  const left = towards(Math.max(0, Math.min(...xs)), 0);
  const top = towards(Math.max(0, Math.min(...ys)), 0);
  const right = towards(Math.min(width, Math.max(...xs)), width);
  const bottom = towards(Math.min(height, Math.max(...ys)), height);
  return [
    { x: left, y: top },
    { x: right, y: top },
    { x: right, y: bottom },
    { x: left, y: bottom },
  ];
}

/** Sides that follow each other around the frame, by their first corner and how many they are. */
interface Run {
  first: number;
  count: number;
}

/** Sides that meet are marked in one piece: two would both cover the pixels between them by half only. */
function runsOf(sides: readonly Side[]): Run[] {
  const isIn = AROUND.map((side) => sides.includes(side));
  if (isIn.every(Boolean)) return [{ first: 0, count: AROUND.length }];
  const runs: Run[] = [];
  for (let first = 0; first < AROUND.length; first++) {
    if (!isIn[first] || isIn[(first + 3) % 4]) continue;
    let count = 1;
    while (isIn[(first + count) % 4]) count++;
    runs.push({ first, count });
  }
  return runs;
}

/** The part of the frame on some sides of the photo. */
function between(outer: Quad, known: Quad, { first, count }: Run): Point[] {
  if (count === AROUND.length) return [...outer];
  const corners = Array.from({ length: count + 1 }, (_, k) => (first + k) % 4);
  return [...corners.map((k) => outer[k]!), ...corners.reverse().map((k) => known[k]!)];
}

const lasso = (combine: MarkShape['combine'], corners: readonly Point[]): MarkShape => ({
  kind: 'lasso',
  combine,
  points: corners.flatMap(({ x, y }) => [x, y]),
});
