import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { inverseRotation, NO_TURN, rayThrough, type Camera, type Rotation } from './camera.ts';
import { multiplyHomographies } from '../geometry/homography.ts';
import type { Size } from '../image/rect.ts';
import { strengthOf, strongestTree, type Overlap } from './overlaps.ts';

/** Angles of view across the longer side that are tried, degrees. */
const NARROWEST = 12;
const WIDEST = 115;
const TRIES = 60;
/** Rays further apart than this (in focal lengths) count as if they were so far. */
const FAR = 0.03;

/**
 * First cameras for frames that hang together: one angle of view for all, the one at which pure turns explain the
 * overlaps best, and the turns along the strongest overlaps from `root`, which looks straight ahead. Frames of another
 * group keep looking ahead.
 */
export function startCameras(
  sizes: readonly Size[],
  overlaps: readonly Overlap[],
  root: number,
  focalShare?: number,
): Camera[] {
  let best = { error: Infinity, focalShare: focalShare ?? 1 };
  for (let k = 0; k < TRIES && focalShare === undefined; k++) {
    const view = NARROWEST * (WIDEST / NARROWEST) ** (k / (TRIES - 1));
    const share = 0.5 / Math.tan((view * Math.PI) / 360);
    const error = overlaps.reduce((sum, overlap) => sum + turnBetween(overlap, sizes, share).error, 0);
    if (error < best.error) best = { error, focalShare: share };
  }
  const cameras = sizes.map((size): Camera => ({ ...cameraOf(size, best.focalShare), rotation: NO_TURN }));
  for (const { frame, over } of strongestTree(root, overlaps)) {
    const { turn } = turnBetween(over, sizes, best.focalShare);
    const isB = frame === over.b;
    const from = cameras[isB ? over.a : over.b]!;
    cameras[frame]!.rotation = multiplyHomographies(from.rotation, isB ? inverseRotation(turn) : turn);
  }
  return cameras;
}

const cameraOf = ({ width, height }: Size, focalShare: number): Camera => ({
  rotation: NO_TURN,
  focalPx: focalShare * Math.max(width, height),
  bend: 0,
});

/**
 * The turn that carries the rays of `a` onto those of `b` best, and the mean deviation left, in rad weighted by the
 * number of pairs. B. Horn: Closed-form solution of absolute orientation using unit quaternions, JOSA A 1987.
 */
function turnBetween(overlap: Overlap, sizes: readonly Size[], focalShare: number): { turn: Rotation; error: number } {
  const [sizeA, sizeB] = [sizes[overlap.a]!, sizes[overlap.b]!];
  const [cameraA, cameraB] = [cameraOf(sizeA, focalShare), cameraOf(sizeB, focalShare)];
  const count = strengthOf(overlap);
  const [raysA, raysB] = [new Float64Array(3 * count), new Float64Array(3 * count)];
  const sums = new Float64Array(9);
  for (let k = 0; k < count; k++) {
    const a = raysA.subarray(3 * k, 3 * k + 3);
    const b = raysB.subarray(3 * k, 3 * k + 3);
    rayThrough(overlap.from[2 * k]!, overlap.from[2 * k + 1]!, sizeA, cameraA, a);
    rayThrough(overlap.to[2 * k]!, overlap.to[2 * k + 1]!, sizeB, cameraB, b);
    normalise(a);
    normalise(b);
    for (let row = 0; row < 3; row++) {
      for (let column = 0; column < 3; column++) sums[3 * row + column]! += a[row]! * b[column]!;
    }
  }
  const turn = bestTurn(sums);
  let error = 0;
  for (let k = 0; k < count; k++) {
    const [x, y, z] = [raysA[3 * k]!, raysA[3 * k + 1]!, raysA[3 * k + 2]!];
    const off = Math.hypot(
      turn[0] * x + turn[1] * y + turn[2] * z - raysB[3 * k]!,
      turn[3] * x + turn[4] * y + turn[5] * z - raysB[3 * k + 1]!,
      turn[6] * x + turn[7] * y + turn[8] * z - raysB[3 * k + 2]!,
    );
    // In px, so that a narrow view does not win by making all angles small.
    error += Math.min(FAR, off * focalShare);
  }
  return { turn, error };
}

function normalise(ray: Float64Array): void {
  const length = Math.hypot(ray[0]!, ray[1]!, ray[2]!);
  for (let c = 0; c < 3; c++) ray[c]! /= length;
}

function bestTurn(s: Float64Array): Rotation {
  const [xx, xy, xz, yx, yy, yz, zx, zy, zz] = s as unknown as Rotation;
  const n = new Matrix([
    [xx + yy + zz, yz - zy, zx - xz, xy - yx],
    [yz - zy, xx - yy - zz, xy + yx, zx + xz],
    [zx - xz, xy + yx, yy - xx - zz, yz + zy],
    [xy - yx, zx + xz, yz + zy, zz - xx - yy],
  ]);
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(n, { assumeSymmetric: true });
  const [w, x, y, z] = eigenvectorMatrix.getColumn(realEigenvalues.indexOf(Math.max(...realEigenvalues))) as [
    number,
    number,
    number,
    number,
  ];
  return [
    w * w + x * x - y * y - z * z,
    2 * (x * y - w * z),
    2 * (x * z + w * y),
    2 * (x * y + w * z),
    w * w - x * x + y * y - z * z,
    2 * (y * z - w * x),
    2 * (x * z - w * y),
    2 * (y * z + w * x),
    w * w - x * x - y * y + z * z,
  ];
}
