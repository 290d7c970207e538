import type { Upright } from '../geometry/frameGeometry.ts';
import { uprightFromMeetings } from '../geometry/uprightFrom.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { reduceLuma } from './reduceLuma.ts';
import { findLineSegments, type Segment } from './lineSegments.ts';
import { findVanishingPoints, type ProjectivePoint } from './vanishingPoints.ts';

const WORK_SIDE_PX = 2400;
const MAX_SEGMENTS = 1500;
/** Edges within this of the upright (or level) may be meant to be so. */
const LARGEST_LEAN = Math.PI / 8;
/** A meeting point counts when so much of the length of those edges runs towards it. */
const FEWEST_EDGES = 8;
const SMALLEST_SHARE_UPRIGHT = 0.4;
const SMALLEST_SHARE_LEVEL = 0.6;
/** Level edges tell how a photo is tilted only if they are seen square on: they meet so far away, in longer sides. */
const SQUARE_ON = 6;
/** A horizon: edges of one direction as long together as this share of the width, the longest at least a third of it. */
const HORIZON_SHARE = 0.6;
const HORIZON_SPREAD = Math.PI / 180;
const SEED = 1;

export interface UprightProposal {
  /** The turn, in radians, that levels the photo; undefined where its lines don't tell. */
  level: number | undefined;
  /** What squares it up: upright edges, and level ones where they can be told. */
  square: Upright | undefined;
}

/**
 * What sets a photo straight, read from its straight edges: where the upright ones meet, where the level ones meet, and
 * for the level alone also a long horizon. J. Kosecka, W. Zhang: Video Compass, ECCV, 2002 (the principle).
 */
export function findUpright(image: RasterImage): UprightProposal {
  const edges = findEdges(image);
  const upright = meetingOf(edges, Math.PI / 2, SMALLEST_SHARE_UPRIGHT);
  const level = meetingOf(edges, 0, SMALLEST_SHARE_LEVEL);
  const square = upright && uprightFromMeetings(upright.point, level?.point);
  return { level: levelOf(edges, upright, level), square };
}

interface Meeting {
  point: ProjectivePoint;
  share: number;
}

interface Edges {
  segments: Segment[];
  width: number;
  height: number;
}

function findEdges(image: RasterImage): Edges {
  const factor = Math.max(1, Math.ceil(Math.max(image.width, image.height) / WORK_SIDE_PX));
  const { luma, hole, width, height } = reduceLuma(image, new Uint8Array(image.width * image.height), factor);
  return { segments: findLineSegments(luma, hole, width, height, MAX_SEGMENTS), width, height };
}

/** Where the edges about a direction meet, if enough of them do. */
function meetingOf({ segments, width, height }: Edges, direction: number, share: number): Meeting | undefined {
  const about = segments.filter((segment) => Math.abs(leanOf(segment, direction)) < LARGEST_LEAN);
  const centre = { x: width / 2, y: height / 2 };
  const sought = { fewest: FEWEST_EDGES, share, most: 1 };
  return findVanishingPoints(about, centre, Math.max(width, height), SEED, sought)[0];
}

function levelOf(edges: Edges, upright: Meeting | undefined, level: Meeting | undefined): number | undefined {
  if (upright) return Math.atan2(upright.point[0] * Math.sign(upright.point[1]), Math.abs(upright.point[1]));
  if (level && Math.hypot(level.point[0], level.point[1]) > SQUARE_ON * Math.abs(level.point[2])) {
    return -Math.atan2(level.point[1] * Math.sign(level.point[0]), Math.abs(level.point[0]));
  }
  return horizonOf(edges);
}

/** The turn that levels the longest edges of one direction, if they are long enough for a horizon. */
function horizonOf({ segments, width }: Edges): number | undefined {
  const about = segments.filter((segment) => Math.abs(leanOf(segment, 0)) < LARGEST_LEAN);
  const [longest] = about;
  if (!longest || longest.length < width / 3) return undefined;
  const alike = about.filter((segment) => Math.abs(leanOf(segment, 0) - leanOf(longest, 0)) < HORIZON_SPREAD);
  let [sum, total] = [0, 0];
  for (const segment of alike) {
    // A long edge's direction is surer: its error falls with its length.
    const weight = segment.length ** 2;
    sum += weight * leanOf(segment, 0);
    total += weight;
  }
  const length = alike.reduce((all, segment) => all + segment.length, 0);
  return length >= HORIZON_SHARE * width ? -sum / total : undefined;
}

/** By how much a segment leans from a direction, in radians, clockwise, within a quarter turn. */
function leanOf({ x0, y0, x1, y1 }: Segment, direction: number): number {
  const lean = (Math.atan2(y1 - y0, x1 - x0) - direction) % Math.PI;
  return lean > Math.PI / 2 ? lean - Math.PI : lean < -Math.PI / 2 ? lean + Math.PI : lean;
}
