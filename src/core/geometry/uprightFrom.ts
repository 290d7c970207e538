import type { Size } from '../image/rect.ts';
import { AS_TAKEN, USUAL_FOCAL, type Upright } from './frameGeometry.ts';
import type { Point } from './homography.ts';

/** A direction as seen from the camera: x right, y down, z into the picture. */
type Ray = readonly [number, number, number];

/** A straight line drawn over a photo, in photo points. */
export interface DrawnLine {
  from: Point;
  to: Point;
}

/**
 * The turn of the camera after which upright edges stand upright (given the point where they meet) and level ones
 * lie level (given theirs): the rotation whose rows are the level direction, the upright one and their cross product.
 * Points are homogeneous, relative to the photo's middle and divided by its longer side. Both together
 * tell the focal length. Without `level` the camera is not turned aside; without `upright` only the level edges count.
 */
export function uprightFromMeetings(upright: Ray | undefined, level: Ray | undefined): Upright {
  const focal = (upright && level && focalOf(upright, level)) ?? USUAL_FOCAL;
  const down = upright && rayOf(upright, 1, focal);
  const right = level && rayOf(level, 0, focal);
  if (down && !right) {
    return { turn: Math.asin(down[0]), pitch: Math.atan2(-down[2], down[1]), yaw: 0, focal };
  }
  if (!right) return AS_TAKEN;
  // Exactly at right angles to the upright direction; without one, turned but not tilted.
  const y = down ?? unit([-right[1], right[0], 0]);
  const along = dot(right, y);
  const x = unit([right[0] - along * y[0], right[1] - along * y[1], right[2] - along * y[2]]);
  const z = cross(x, y);
  return { turn: Math.atan2(-x[1], y[1]), pitch: Math.asin(z[1]), yaw: Math.atan2(-z[0], z[2]), focal };
}

/**
 * The turn that sets drawn lines upright or level, whichever each is nearer to. One line levels; two of a kind are
 * squared up; more lines of a kind count as the first and the last.
 */
export function uprightFromLines(lines: readonly DrawnLine[], photo: Size): Upright {
  const isUpright = ({ from, to }: DrawnLine): boolean => Math.abs(to.y - from.y) > Math.abs(to.x - from.x);
  const uprights = lines.filter(isUpright);
  const levels = lines.filter((line) => !isUpright(line));
  const meeting = (kind: readonly DrawnLine[]): Ray | undefined =>
    kind.length < 2 ? undefined : unit(cross(lineOf(kind[0]!, photo), lineOf(kind.at(-1)!, photo)));
  const squared = uprightFromMeetings(meeting(uprights), meeting(levels));
  if (uprights.length > 1 || levels.length > 1) return squared;
  const [line] = lines;
  if (!line) return AS_TAKEN;
  const [dx, dy] = [line.to.x - line.from.x, line.to.y - line.from.y];
  const turn = isUpright(line) ? Math.atan(dx / dy) : -Math.atan(dy / dx);
  return { ...AS_TAKEN, turn };
}

function lineOf({ from, to }: DrawnLine, photo: Size): Ray {
  const scale = Math.max(photo.width, photo.height);
  const at = ({ x, y }: Point): Ray => [(x - photo.width / 2) / scale, (y - photo.height / 2) / scale, 1];
  return cross(at(from), at(to));
}

/** Focal lengths that lenses have, as shares of the longer side. */
const SHORTEST_FOCAL = 0.45;
const LONGEST_FOCAL = 4;

/** The focal length at which two meeting points lie at right angles to each other, if it is one that lenses have. */
function focalOf(upright: Ray, level: Ray): number | undefined {
  const squared = -(upright[0] * level[0] + upright[1] * level[1]) / (upright[2] * level[2]);
  const focal = Math.sqrt(squared);
  return focal > SHORTEST_FOCAL && focal < LONGEST_FOCAL ? focal : undefined;
}

/** The viewing ray to a homogeneous point, pointing along the given axis. */
function rayOf([x, y, w]: Ray, axis: 0 | 1, focal: number): Ray {
  const ray = unit([x, y, w * focal]);
  return ray[axis] < 0 ? [-ray[0], -ray[1], -ray[2]] : ray;
}

const dot = (a: Ray, b: Ray): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

const cross = (a: Ray, b: Ray): Ray => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

function unit([x, y, z]: Ray): Ray {
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
}
