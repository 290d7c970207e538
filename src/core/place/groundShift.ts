import type { Homography, Point } from '../geometry/homography.ts';

/**
 * How what lies on level ground beside a thing (its shadow) moves in the picture when the thing that stands at `foot` is
 * put down at `landed` and scaled, while its direction on the ground stays: the map from picture to picture, for a
 * camera whose horizon is level at the height `horizon` and that looks along the middle, `middleX`. All in px.
 * Undefined where `foot` and `landed` don't both lie below the horizon.
 *
 * With u = x - middleX and v = y - horizon a point of the ground lies at (u / v, 1 / v), in heights of the camera; there
 * scaling about the foot and shifting are linear. R. Hartley, A. Zisserman: Multiple View Geometry, 2004, section 8.1.
 */
export function groundShift(
  horizon: number,
  middleX: number,
  foot: Point,
  landed: Point,
  scale: number,
): Homography | undefined {
  const [uf, vf] = [foot.x - middleX, foot.y - horizon];
  const [ul, vl] = [landed.x - middleX, landed.y - horizon];
  if (!(vf > 0 && vl > 0)) return undefined;
  // How much larger it is on the ground than before: nearer to the eye things are drawn larger without growing.
  const growth = scale / (vl / vf);
  const across = ul / vl - (growth * uf) / vf;
  const away = 1 / vl - growth / vf;
  // In u, v: u' = (growth u + across v) / (growth + away v), v' = v / (growth + away v).
  const w: readonly [number, number, number] = [0, away, growth - away * horizon];
  const u: readonly [number, number, number] = [growth, across, -growth * middleX - across * horizon];
  const v: readonly [number, number, number] = [0, 1, -horizon];
  return [
    u[0] + middleX * w[0],
    u[1] + middleX * w[1],
    u[2] + middleX * w[2],
    v[0] + horizon * w[0],
    v[1] + horizon * w[1],
    v[2] + horizon * w[2],
    ...w,
  ];
}
