import type { Homography } from '../geometry/homography.ts';
import { multiplyHomographies } from '../geometry/homography.ts';
import type { Size } from '../image/rect.ts';

// Axes: x to the right, y down, z forward, for a camera as for the world.

/** A rotation, row by row: its columns are the turned axes. */
export type Rotation = Homography;

/** How a frame was taken from the one place that all frames share. */
export interface Camera {
  /** From the camera's axes to the world's. */
  rotation: Rotation;
  /** In px of the frame at full size. */
  focalPx: number;
  /** Radial distortion: a ray at distance r from the axis (in focal lengths) is seen at r (1 + bend r^2). */
  bend: number;
}

export const NO_TURN: Rotation = [1, 0, 0, 0, 1, 0, 0, 0, 1];

export const inverseRotation = ([a, b, c, d, e, f, g, h, i]: Rotation): Rotation => [a, d, g, b, e, h, c, f, i];

/** The turn about a vector by its length, rad (O. Rodrigues, 1840). */
export function rotationAbout(x: number, y: number, z: number): Rotation {
  const angle = Math.hypot(x, y, z);
  if (angle < 1e-15) return NO_TURN;
  const [u, v, w] = [x / angle, y / angle, z / angle];
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const k = 1 - c;
  return [
    c + u * u * k,
    u * v * k - w * s,
    u * w * k + v * s,
    v * u * k + w * s,
    c + v * v * k,
    v * w * k - u * s,
    w * u * k - v * s,
    w * v * k + u * s,
    c + w * w * k,
  ];
}

/** A direction of the world, of any length. */
export type Direction = readonly [number, number, number];

export function turnDirection([x, y, z]: Direction, [a, b, c, d, e, f, g, h, i]: Rotation): [number, number, number] {
  return [a * x + b * y + c * z, d * x + e * y + f * z, g * x + h * y + i * z];
}

/** Yaw (clockwise seen from above), pitch (up) and roll (clockwise), rad: R = Ry(yaw) Rx(pitch) Rz(roll). */
export interface Angles {
  yaw: number;
  pitch: number;
  roll: number;
}

export const rotationOf = ({ yaw, pitch, roll }: Angles): Rotation =>
  multiplyHomographies(
    multiplyHomographies(rotationAbout(0, yaw, 0), rotationAbout(pitch, 0, 0)),
    rotationAbout(0, 0, roll),
  );

export function anglesOf(r: Rotation): Angles {
  return {
    yaw: Math.atan2(r[2], r[8]),
    pitch: Math.asin(Math.max(-1, Math.min(1, -r[5]))),
    roll: Math.atan2(r[3], r[4]),
  };
}

const MAX_STEPS = 6;

/** The direction (length not 1, in the camera's axes) that a point of the frame looks in. */
export function rayThrough(
  x: number,
  y: number,
  { width, height }: Size,
  camera: Camera,
  out: Float64Array | number[],
): void {
  const u = (x - width / 2) / camera.focalPx;
  const v = (y - height / 2) / camera.focalPx;
  let factor = 1;
  for (let step = 0; step < MAX_STEPS; step++) {
    factor = 1 / (1 + camera.bend * (u * u + v * v) * factor * factor);
  }
  out[0] = u * factor;
  out[1] = v * factor;
  out[2] = 1;
}

/** Where frame `from` shows what frame `to` shows at a point: NaN where it lies behind. */
export function carryPoint(
  x: number,
  y: number,
  from: Camera,
  fromSize: Size,
  to: Camera,
  toSize: Size,
  out: Float64Array | number[],
): void {
  rayThrough(x, y, fromSize, from, out);
  const [a, b, c] = [out[0]!, out[1]!, out[2]!];
  const f = from.rotation;
  const [wx, wy, wz] = [f[0] * a + f[1] * b + f[2] * c, f[3] * a + f[4] * b + f[5] * c, f[6] * a + f[7] * b + f[8] * c];
  const t = to.rotation;
  const z = t[2] * wx + t[5] * wy + t[8] * wz;
  if (z <= 1e-6) {
    out[0] = out[1] = NaN;
    return;
  }
  const u = (t[0] * wx + t[3] * wy + t[6] * wz) / z;
  const v = (t[1] * wx + t[4] * wy + t[7] * wz) / z;
  const factor = to.focalPx * (1 + to.bend * (u * u + v * v));
  out[0] = toSize.width / 2 + u * factor;
  out[1] = toSize.height / 2 + v * factor;
}

/** The map from one frame's pixels to another's, lens distortion left out. */
export function homographyBetween(from: Camera, fromSize: Size, to: Camera, toSize: Size): Homography {
  const back: Homography = [
    1 / from.focalPx,
    0,
    -fromSize.width / 2 / from.focalPx,
    0,
    1 / from.focalPx,
    -fromSize.height / 2 / from.focalPx,
    0,
    0,
    1,
  ];
  const onto: Homography = [to.focalPx, 0, toSize.width / 2, 0, to.focalPx, toSize.height / 2, 0, 0, 1];
  const turn = multiplyHomographies(inverseRotation(to.rotation), from.rotation);
  const h = multiplyHomographies(multiplyHomographies(onto, turn), back);
  return h.map((value) => value / h[8]) as unknown as Homography;
}
