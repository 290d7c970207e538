import type { CarryBack } from '../geometry/warp.ts';
import type { Size } from '../image/rect.ts';
import { rotationOf, type Camera, type Direction, type Rotation } from '../panorama/camera.ts';
import { backToFrame } from '../panorama/projection.ts';

// A sphere is a picture of everything around, twice as wide as high: longitude from left (-180 degrees) to right, the
// direction straight ahead in its middle, latitude from the zenith in the topmost row to the nadir in the lowest.

/** A direct (rectilinear) view into a sphere: straight lines stay straight. Angles in degrees. */
export interface SphereView extends Size {
  /** To the right, -180..180. */
  yaw: number;
  /** Up, -90..90. */
  pitch: number;
  /** Of the head, clockwise. */
  roll: number;
  /** From the left edge to the right. */
  fov: number;
}

/** Whether two views, or none, are the same. */
export const sameView = (a: SphereView | undefined, b: SphereView | undefined): boolean =>
  a === b || (a !== undefined && b !== undefined && VIEW_FIELDS.every((field) => a[field] === b[field]));

const VIEW_FIELDS = ['yaw', 'pitch', 'roll', 'fov', 'width', 'height'] as const;
const RADIANS = Math.PI / 180;

/** Views are made so much finer than the sphere in their middle: what is rebuilt in them stays sharp on its way back. */
const FINENESS = 1.2;
const LARGEST_SIDE_PX = 4096;

/**
 * The size of a view of this angle and this ratio (width by height) that shows the sphere's pixels as they are or a little
 * larger, but no side more than 4096 px.
 */
export function viewSize(fov: number, ratio: number, sphere: Size): Size {
  const width = (FINENESS * sphere.width * Math.tan((fov / 2) * RADIANS)) / Math.PI;
  const scale = Math.min(1, LARGEST_SIDE_PX / width, (LARGEST_SIDE_PX * ratio) / width);
  const side = (px: number): number => Math.max(16, Math.round(px * scale));
  return { width: side(width), height: side(width / ratio) };
}

/** The view as a camera in the middle of the sphere. */
export const cameraOf = ({ yaw, pitch, roll, fov, width }: SphereView): Camera => ({
  rotation: rotationOf({ yaw: yaw * RADIANS, pitch: pitch * RADIANS, roll: roll * RADIANS }),
  focalPx: width / 2 / Math.tan((fov / 2) * RADIANS),
  bend: 0,
});

/** Carries px of the sphere to px of a view; NaN for what lies behind it. */
export const sphereToView = (view: SphereView, sphere: Size): CarryBack =>
  backToFrame(
    { kind: 'spherical', scale: sphere.width / (2 * Math.PI) },
    { x: -sphere.width / 2, y: -sphere.height / 2 },
    cameraOf(view),
    view,
  );

/** Carries px of a view to px of the sphere. */
export function viewToSphere(view: SphereView, sphere: Size): CarryBack {
  const { rotation, focalPx } = cameraOf(view);
  const [cx, cy] = [view.width / 2, view.height / 2];
  return raysToSphere(rotation, sphere, (points, k, ray) => {
    ray[0] = (points[k]! - cx) / focalPx;
    ray[1] = (points[k + 1]! - cy) / focalPx;
    ray[2] = 1;
  });
}

/** Carries px of a sphere to those of the same sphere before it was turned by a rotation. */
export function turnedToSphere(turn: Rotation, sphere: Size): CarryBack {
  const [a, b, c, d, e, f, g, h, i] = turn;
  const ray = directionWriter(sphere);
  return raysToSphere([a, d, g, b, e, h, c, f, i], sphere, ray);
}

/**
 * Carries px of a small planet to px of the sphere: the whole sphere seen stereographically from above, the ground a
 * disc in the middle, the sky around it.
 *
 * @param yaw what is up in the picture, degrees
 * @param horizonShare radius of the horizon, as a share of half the shorter side
 */
export function planetToSphere(size: Size, yaw: number, horizonShare: number, sphere: Size): CarryBack {
  const radius = (Math.min(size.width, size.height) / 2) * horizonShare;
  const [cx, cy] = [size.width / 2, size.height / 2];
  const rotation = rotationOf({ yaw: yaw * RADIANS, pitch: -Math.PI / 2, roll: 0 });
  return raysToSphere(rotation, sphere, (points, k, ray) => {
    const u = (points[k]! - cx) / radius;
    const v = (points[k + 1]! - cy) / radius;
    ray[0] = 2 * u;
    ray[1] = 2 * v;
    ray[2] = 1 - u * u - v * v;
  });
}

/** Where a direction lies on the sphere, px. */
export function placeOnSphere([x, y, z]: Direction, { width, height }: Size): { x: number; y: number } {
  return {
    x: width * (0.5 + Math.atan2(x, z) / (2 * Math.PI)),
    y: height * (0.5 + Math.atan2(y, Math.hypot(x, z)) / Math.PI),
  };
}

/** The direction (length 1) of a px of the sphere. */
export function directionOnSphere(x: number, y: number, sphere: Size): [number, number, number] {
  const ray: [number, number, number] = [0, 0, 0];
  directionWriter(sphere)([x, y], 0, ray);
  return ray;
}

type WriteRay = (points: ArrayLike<number>, k: number, ray: number[]) => void;

const directionWriter =
  ({ width, height }: Size): WriteRay =>
  (points, k, ray) => {
    const longitude = (points[k]! / width - 0.5) * 2 * Math.PI;
    const latitude = (points[k + 1]! / height - 0.5) * Math.PI;
    const across = Math.cos(latitude);
    ray[0] = across * Math.sin(longitude);
    ray[1] = Math.sin(latitude);
    ray[2] = across * Math.cos(longitude);
  };

function raysToSphere([a, b, c, d, e, f, g, h, i]: Rotation, { width, height }: Size, write: WriteRay): CarryBack {
  const ray = [0, 0, 0];
  return (points, count) => {
    for (let k = 0; k < 2 * count; k += 2) {
      write(points, k, ray);
      const [u, v, w] = ray as [number, number, number];
      const x = a * u + b * v + c * w;
      const y = d * u + e * v + f * w;
      const z = g * u + h * v + i * w;
      points[k] = width * (0.5 + Math.atan2(x, z) / (2 * Math.PI));
      points[k + 1] = height * (0.5 + Math.atan2(y, Math.sqrt(x * x + z * z)) / Math.PI);
    }
  };
}
