import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { multiplyHomographies } from '../geometry/homography.ts';
import { rotationAbout, type Camera, type Direction, type Rotation } from './camera.ts';

/** People hold a camera level to about this, and straight ahead to about that; rad. */
const USUAL_ROLL = Math.PI / 180;
const USUAL_PITCH = (20 * Math.PI) / 180;

/**
 * Turns all cameras together so that the horizon is level and the middle of the view lies ahead: the direction that is
 * most square to the cameras' horizontal axes, and less strictly to what they look at, is down.
 * M. Brown, D. Lowe: Automatic Panoramic Image Stitching using Invariant Features, IJCV 2007, section 5.
 */
export function straighten(cameras: readonly Camera[], frames: readonly number[]): Camera[] {
  const sums = Matrix.zeros(3, 3);
  const down = [0, 0, 0];
  for (const frame of frames) {
    const r = cameras[frame]!.rotation;
    const add = (axis: [number, number, number], spread: number): void => {
      const column = Matrix.columnVector(axis);
      sums.add(column.mmul(column.transpose()).mul(1 / spread ** 2));
    };
    add([r[0], r[3], r[6]], USUAL_ROLL);
    add([r[2], r[5], r[8]], USUAL_PITCH);
    for (let c = 0; c < 3; c++) down[c]! += r[3 * c + 1]!;
  }
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(sums, { assumeSymmetric: true });
  const found = eigenvectorMatrix.getColumn(realEigenvalues.indexOf(Math.min(...realEigenvalues)));
  const sign = found[0]! * down[0]! + found[1]! * down[1]! + found[2]! * down[2]! < 0 ? -1 : 1;
  const [x, y, z] = found.map((value) => sign * value) as [number, number, number];
  // The shortest turn that brings it to (0, 1, 0).
  const angle = Math.acos(Math.max(-1, Math.min(1, y)));
  const across = Math.hypot(x, z) || 1;
  const level = rotationAbout((-z / across) * angle, 0, (x / across) * angle);
  const levelled = turnAll(cameras, level);
  return turnAll(levelled, rotationAbout(0, -middleYaw(levelled, frames), 0));
}

/** The middle of the widest stretch of headings: what lies opposite is the largest gap between them. */
function middleYaw(cameras: readonly Camera[], frames: readonly number[]): number {
  const yaws = frames.map((frame) => Math.atan2(cameras[frame]!.rotation[2], cameras[frame]!.rotation[8]));
  yaws.sort((a, b) => a - b);
  let [widest, start] = [-1, 0];
  yaws.forEach((yaw, k) => {
    const next = k + 1 < yaws.length ? yaws[k + 1]! : yaws[0]! + 2 * Math.PI;
    if (next - yaw > widest) [widest, start] = [next - yaw, next];
  });
  return start + (2 * Math.PI - widest) / 2;
}

export const turnAll = (cameras: readonly Camera[], turn: Rotation): Camera[] =>
  cameras.map((camera) => ({ ...camera, rotation: multiplyHomographies(turn, camera.rotation) }));

/**
 * The turn about the line of sight to the middle of a drawn line that makes it level, or upright if it is nearer to that,
 * as a flat picture in that direction would show it.
 */
export function turnForLine(from: Direction, to: Direction): Rotation {
  const heading = Math.atan2(from[0] + to[0], from[2] + to[2]);
  const [sin, cos] = [Math.sin(heading), Math.cos(heading)];
  const seen = ([x, y, z]: Direction): [number, number] => {
    const depth = x * sin + z * cos;
    return [(x * cos - z * sin) / depth, y / depth];
  };
  const [[x0, y0], [x1, y1]] = [seen(from), seen(to)];
  const slope = Math.atan2(y1 - y0, x1 - x0);
  const off = slope - Math.round(slope / (Math.PI / 2)) * (Math.PI / 2);
  return rotationAbout(-off * sin, 0, -off * cos);
}
