import type { Rect, Size } from '../image/rect.ts';
import { applyHomography, multiplyHomographies, type Homography, type Point } from './homography.ts';

/** How a photo is turned upright, as a turn of the camera that took it. */
export interface Upright {
  /** Level: radians, the picture clockwise. */
  turn: number;
  /** Square up: radians by which the camera is turned down (then upright lines that meet above are set apart there). */
  pitch: number;
  /** Square up: radians by which the camera is turned to the left. */
  yaw: number;
  /** The focal length that the photo is supposed to have, as a share of its longer side. */
  focal: number;
}

export interface FrameGeometry extends Upright {
  /** The frame in px of the upright photo, whose middle stays where it is; it may reach past the photo. */
  rect: Rect;
}

/** A usual angle of view. */
export const USUAL_FOCAL = 1;

export const AS_TAKEN: Upright = { turn: 0, pitch: 0, yaw: 0, focal: USUAL_FOCAL };

export const isAsTaken = ({ turn, pitch, yaw }: Upright): boolean => turn === 0 && pitch === 0 && yaw === 0;

/**
 * The map from photo points to points of the upright photo: that of a camera turned about its centre, K R K^-1, then
 * shifted and scaled so that the photo's middle keeps its place and size.
 * R. Hartley, A. Zisserman: Multiple View Geometry, 2004, section 8.4.
 */
export function uprightHomography({ turn, pitch, yaw, focal }: Upright, photo: Size): Homography {
  const [cx, cy] = [photo.width / 2, photo.height / 2];
  if (pitch === 0 && yaw === 0) return aroundMiddle(turned(turn), cx, cy);
  const f = focal * Math.max(photo.width, photo.height);
  const rotation = multiplyHomographies(multiplyHomographies(turned(turn), pitched(pitch)), yawed(yaw));
  const scaled = rotation.map((value, k) => value * (k === 2 || k === 5 ? f : k > 5 && k < 8 ? 1 / f : 1));
  const map = scaled as unknown as Homography;
  const middle = applyHomography(map, 0, 0);
  // At the middle areas change by 1 / w^3 of the last row's w there.
  const scale = Math.sqrt(map[8] ** 3 / determinant(map));
  const back: Homography = [scale, 0, -scale * middle.x, 0, scale, -scale * middle.y, 0, 0, 1];
  return aroundMiddle(multiplyHomographies(back, map), cx, cy);
}

/** The map from photo points to points of the frame. */
export function photoToFrame(geometry: FrameGeometry, photo: Size): Homography {
  const { x, y } = geometry.rect;
  return multiplyHomographies([1, 0, -x, 0, 1, -y, 0, 0, 1], uprightHomography(geometry, photo));
}

/** The photo's corners, clockwise from the top left, in px of the upright photo. */
export function uprightCorners(upright: Upright, photo: Size): [Point, Point, Point, Point] {
  const map = uprightHomography(upright, photo);
  const at = (x: number, y: number): Point => applyHomography(map, x * photo.width, y * photo.height);
  return [at(0, 0), at(1, 0), at(1, 1), at(0, 1)];
}

const turned = (t: number): Homography => [Math.cos(t), -Math.sin(t), 0, Math.sin(t), Math.cos(t), 0, 0, 0, 1];
const pitched = (t: number): Homography => [1, 0, 0, 0, Math.cos(t), -Math.sin(t), 0, Math.sin(t), Math.cos(t)];
const yawed = (t: number): Homography => [Math.cos(t), 0, Math.sin(t), 0, 1, 0, -Math.sin(t), 0, Math.cos(t)];

const aroundMiddle = (map: Homography, cx: number, cy: number): Homography =>
  multiplyHomographies(multiplyHomographies([1, 0, cx, 0, 1, cy, 0, 0, 1], map), [1, 0, -cx, 0, 1, -cy, 0, 0, 1]);

const determinant = ([a, b, c, d, e, f, g, h, i]: Homography): number =>
  a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
