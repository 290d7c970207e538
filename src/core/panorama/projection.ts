import type { Point } from '../geometry/homography.ts';
import type { CarryBack } from '../geometry/warp.ts';
import type { Rect, Size } from '../image/rect.ts';
import { rayThrough, type Camera } from './camera.ts';

/**
 * How directions become places of a flat picture, in px from the point straight ahead: `planar` keeps straight lines
 * straight, `cylindrical` keeps upright ones straight and rolls a wide view out, `spherical` shows everything, longitude
 * by latitude (equirectangular). Straight ahead, all three have `scale` px to a radian.
 */
export interface Projection {
  kind: 'planar' | 'cylindrical' | 'spherical';
  scale: number;
}

/** Where a direction of the world lies; NaN where the projection has no place for it. */
export function placeOf({ kind, scale }: Projection, x: number, y: number, z: number): Point {
  if (kind === 'planar') return z > 1e-6 ? { x: (scale * x) / z, y: (scale * y) / z } : { x: NaN, y: NaN };
  const across = Math.hypot(x, z);
  return { x: scale * Math.atan2(x, z), y: scale * (kind === 'cylindrical' ? y / across : Math.atan2(y, across)) };
}

/** The direction (length not 1) that a place shows. */
export function directionAt({ kind, scale }: Projection, u: number, v: number): [number, number, number] {
  if (kind === 'planar') return [u / scale, v / scale, 1];
  const angle = u / scale;
  if (kind === 'cylindrical') return [Math.sin(angle), v / scale, Math.cos(angle)];
  const across = Math.cos(v / scale);
  return [across * Math.sin(angle), Math.sin(v / scale), across * Math.cos(angle)];
}

/** Carries px of a panorama, whose top left corner is `corner`, back to px of a frame; NaN where it sees nothing of them. */
export function backToFrame(projection: Projection, corner: Point, camera: Camera, size: Size): CarryBack {
  const { kind, scale } = projection;
  const [a, b, c, d, e, f, g, h, i] = camera.rotation;
  const { focalPx, bend } = camera;
  const [cx, cy] = [size.width / 2, size.height / 2];
  // Where a bent lens would fold the picture back over itself, it shows nothing any more.
  const most = bend < 0 ? -1 / (3 * bend) : Infinity;
  return (points, count) => {
    for (let k = 0; k < 2 * count; k += 2) {
      const u = (points[k]! + corner.x) / scale;
      const v = (points[k + 1]! + corner.y) / scale;
      let x = u;
      let y = v;
      let z = 1;
      if (kind !== 'planar') {
        const across = kind === 'spherical' ? Math.cos(v) : 1;
        if (kind === 'spherical') y = Math.sin(v);
        x = across * Math.sin(u);
        z = across * Math.cos(u);
      }
      const depth = c * x + f * y + i * z;
      const across = (a * x + d * y + g * z) / depth;
      const down = (b * x + e * y + h * z) / depth;
      const square = across * across + down * down;
      if (!(depth > 0) || square > most) {
        points[k] = points[k + 1] = NaN;
      } else {
        const factor = focalPx * (1 + bend * square);
        points[k] = cx + across * factor;
        points[k + 1] = cy + down * factor;
      }
    }
  };
}

const SAMPLES = 40;

/**
 * The box, in px of the projection, that a frame covers. In a rolled-out projection it may reach beyond half a turn to
 * either side; one that sees a pole covers a whole turn. Undefined where a planar projection can't show the frame.
 */
export function extentOf(projection: Projection, camera: Camera, size: Size): Rect | undefined {
  const r = camera.rotation;
  const turn = 2 * Math.PI * projection.scale;
  const ahead = placeOf(projection, r[2], r[5], r[8]);
  const ray = [0, 0, 0];
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let row = 0; row <= SAMPLES; row++) {
    for (let column = 0; column <= SAMPLES; column++) {
      rayThrough((column / SAMPLES) * size.width, (row / SAMPLES) * size.height, size, camera, ray);
      const [a, b, c] = ray as [number, number, number];
      const place = placeOf(
        projection,
        r[0] * a + r[1] * b + r[2] * c,
        r[3] * a + r[4] * b + r[5] * c,
        r[6] * a + r[7] * b + r[8] * c,
      );
      if (!Number.isFinite(place.x)) return undefined;
      let { x } = place;
      if (projection.kind !== 'planar') x -= turn * Math.round((x - ahead.x) / turn);
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, place.y);
      bottom = Math.max(bottom, place.y);
    }
  }
  for (const pole of projection.kind === 'spherical' ? [-1, 1] : []) {
    const seen = Float64Array.of(0, pole * projection.scale * (Math.PI / 2 - 1e-6));
    backToFrame(projection, { x: 0, y: 0 }, camera, size)(seen, 1);
    if (!(seen[0]! > 0 && seen[1]! > 0 && seen[0]! < size.width && seen[1]! < size.height)) continue;
    [left, right] = [ahead.x - turn / 2, ahead.x + turn / 2];
    if (pole < 0) top = -turn / 4;
    else bottom = turn / 4;
  }
  const [x, y] = [Math.floor(left), Math.floor(top)];
  return { x, y, width: Math.ceil(right) - x, height: Math.ceil(bottom) - y };
}
