import { FingoError } from '../errors.ts';
import type { Size } from '../image/rect.ts';
import { multiplyHomographies } from '../geometry/homography.ts';
import { anglesOf, type Direction, type Rotation } from '../panorama/camera.ts';
import { cameraOf, directionOnSphere, viewSize, type SphereView } from './sphereView.ts';

const DEGREES = 180 / Math.PI;
/** What reaches farther than this from its middle does not fit one direct view. */
const FARTHEST_DEGREES = 62;
/** So much is seen around what is looked at: a share of its radius, and at least some degrees. */
const AROUND_SHARE = 0.8;
const MIN_AROUND_DEGREES = 12;
const WIDEST_DEGREES = 140;
/** What lies so near a pole is looked at straight down or up, where its surface has no perspective. */
const NEAR_POLE_DEGREES = 35;
const FARTHEST_FROM_POLE_DEGREES = 55;

/**
 * The square direct view that shows an area of the sphere, given by points (x0, y0, x1, y1, ... in px) spread over it,
 * in its middle and with enough around it to rebuild it from. Near a pole it looks straight down or up. Throws
 * `nothing-marked` without points and `out-of-range` for an area that is too wide.
 */
export function viewAround(points: ArrayLike<number>, sphere: Size): SphereView {
  const directions: Direction[] = [];
  const sum = [0, 0, 0];
  for (let k = 0; k < points.length; k += 2) {
    const direction = directionOnSphere(points[k]!, points[k + 1]!, sphere);
    directions.push(direction);
    // Points are spread over the picture: near the poles they stand for less.
    const weight = Math.hypot(direction[0], direction[2]);
    for (let c = 0; c < 3; c++) sum[c]! += weight * direction[c]!;
  }
  const length = Math.hypot(...sum);
  if (directions.length === 0) {
    throw new FingoError('nothing-marked', 'Nothing is marked on the sphere; draw around what should change.');
  }
  const middle = sum.map((value) => value / (length || 1)) as [number, number, number];
  const pitch = -Math.asin(middle[1]) * DEGREES;
  const pole: Direction = [0, Math.sign(middle[1]) || 1, 0];
  const fromPole = reachFrom(pole, directions);
  if (90 - Math.abs(pitch) < NEAR_POLE_DEGREES && fromPole < FARTHEST_FROM_POLE_DEGREES) {
    return viewOfPole(pole[1] > 0 ? -90 : 90, fromPole, sphere);
  }
  const reach = reachFrom(middle, directions);
  if (length === 0) throw tooWide();
  return squareView(Math.atan2(middle[0], middle[2]) * DEGREES, pitch, reach, sphere);
}

const reachFrom = (from: Direction, directions: readonly Direction[]): number => {
  const nearest = directions.reduce((least, d) => Math.min(least, d[0] * from[0] + d[1] * from[1] + d[2] * from[2]), 1);
  return Math.acos(Math.max(-1, nearest)) * DEGREES;
};

const tooWide = (): FingoError =>
  new FingoError(
    'out-of-range',
    'This reaches too far around for one direct view; mark a part of it and do the rest after that.',
  );

/** The view straight up (90) or down (-90) that shows so many degrees from the pole, and enough around that. */
export const viewOfPole = (pitch: 90 | -90, reach: number, sphere: Size): SphereView =>
  squareView(0, pitch, reach, sphere);

function squareView(yaw: number, pitch: number, reach: number, sphere: Size): SphereView {
  if (reach > FARTHEST_DEGREES) throw tooWide();
  const half = reach + Math.max(MIN_AROUND_DEGREES, AROUND_SHARE * reach);
  const fov = Math.min(WIDEST_DEGREES, 2 * half);
  return { yaw, pitch, roll: 0, fov, ...viewSize(fov, 1, sphere) };
}

/** The view that shows the same after all that is around has been turned. */
export function turnedView(view: SphereView, turn: Rotation): SphereView {
  const { yaw, pitch, roll } = anglesOf(multiplyHomographies(turn, cameraOf(view).rotation));
  return { ...view, yaw: yaw * DEGREES, pitch: pitch * DEGREES, roll: roll * DEGREES };
}
