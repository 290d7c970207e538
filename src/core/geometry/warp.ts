import type { Size } from '../image/rect.ts';
import { invertHomography, multiplyHomographies, type Homography, type Point } from './homography.ts';

/**
 * How a picture is carried onto another: as a plane seen by a turned camera, or pushed along one axis by a smooth amount.
 * Points are continuous (pixel centres at .5).
 */
export type Warp =
  | { kind: 'projective'; toTarget: Homography }
  | {
      kind: 'displaced';
      axis: 'x' | 'y';
      /** Of the target, in px. */
      width: number;
      height: number;
      /** A grid over the target with nodes at its corners and edges, row by row. */
      columns: number;
      rows: number;
      /** Source coordinate minus target coordinate along the axis, px, at each node. */
      shifts: Float32Array;
    };

/** The warp of a picture onto another size. */
export const scaling = (from: Size, to: Size): Warp => ({
  kind: 'projective',
  toTarget: [to.width / from.width, 0, 0, 0, to.height / from.height, 0, 0, 0, 1],
});

/** Carries so many target points (x0, y0, x1, y1, ...) back to their source points, in place. */
export type CarryBack = (points: Float64Array, count: number) => void;

/** The way back from the target of the last warp to the source of the first. */
export function backThrough(warps: readonly Warp[]): CarryBack {
  const back = joined(warps).map(oneBack).reverse();
  return (points, count) => back.forEach((carry) => carry(points, count));
}

/** The whole-pixel shift (target minus source) that a chain of warps amounts to, if it is nothing else. */
export function wholeShiftOf(warps: readonly Warp[]): Point | undefined {
  const all = joined(warps);
  if (all.length === 0) return { x: 0, y: 0 };
  const [only] = all;
  if (all.length > 1 || only?.kind !== 'projective') return undefined;
  const h = only.toTarget.map((value) => value / only.toTarget[8]);
  const [x, y] = [Math.round(h[2]!), Math.round(h[5]!)];
  const unit = [1, 0, x, 0, 1, y, 0, 0, 1];
  // The last row is multiplied by thousands of px, so it must be exact.
  const isShift = h.every((value, k) => Math.abs(value - unit[k]!) < (k < 6 ? 1e-9 : 1e-13));
  return isShift ? { x, y } : undefined;
}

/** Neighbouring projective warps made one. */
function joined(warps: readonly Warp[]): Warp[] {
  const out: Warp[] = [];
  for (const warp of warps) {
    const last = out.at(-1);
    if (last?.kind === 'projective' && warp.kind === 'projective') {
      const toTarget = multiplyHomographies(warp.toTarget, last.toTarget);
      out[out.length - 1] = { kind: 'projective', toTarget };
    } else out.push(warp);
  }
  return out;
}

function oneBack(warp: Warp): CarryBack {
  if (warp.kind === 'displaced') return displacedBack(warp);
  const [a, b, c, d, e, f, g, h, i] = invertHomography(warp.toTarget);
  return (points, count) => {
    for (let k = 0; k < 2 * count; k += 2) {
      const x = points[k]!;
      const y = points[k + 1]!;
      const w = g * x + h * y + i;
      points[k] = (a * x + b * y + c) / w;
      points[k + 1] = (d * x + e * y + f) / w;
    }
  };
}

function displacedBack({
  axis,
  width,
  height,
  columns,
  rows,
  shifts,
}: Extract<Warp, { kind: 'displaced' }>): CarryBack {
  const perX = (columns - 1) / width;
  const perY = (rows - 1) / height;
  const moved = axis === 'x' ? 0 : 1;
  const within = (value: number, most: number): number => (value > 0 ? (value < most ? value : most) : 0);
  return (points, count) => {
    for (let k = 0; k < 2 * count; k += 2) {
      const gx = within(points[k]! * perX, columns - 1);
      const gy = within(points[k + 1]! * perY, rows - 1);
      // The last node is reached from the cell before it.
      const column = gx < columns - 1 ? gx | 0 : columns - 2;
      const row = gy < rows - 1 ? gy | 0 : rows - 2;
      const at = row * columns + column;
      const above = shifts[at]! + (gx - column) * (shifts[at + 1]! - shifts[at]!);
      const below = shifts[at + columns]! + (gx - column) * (shifts[at + columns + 1]! - shifts[at + columns]!);
      points[k + moved] = points[k + moved]! + above + (gy - row) * (below - above);
    }
  };
}
