import type { Size } from '../image/rect.ts';
import { applyHomography, invertHomography, multiplyHomographies, type Homography, type Point } from './homography.ts';

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

/** Writes the source point of a target point into `out`. */
export type FindSource = (x: number, y: number, out: Point) => void;

/** The way back from the target of the last warp to the source of the first. */
export function sourceFinder(warps: readonly Warp[]): FindSource {
  const back = joined(warps).map(oneBack).reverse();
  if (back.length === 1) return back[0]!;
  return (x, y, out) => {
    out.x = x;
    out.y = y;
    for (const find of back) find(out.x, out.y, out);
  };
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

function oneBack(warp: Warp): FindSource {
  if (warp.kind === 'projective') {
    const h = invertHomography(warp.toTarget);
    return (x, y, out) => {
      const at = applyHomography(h, x, y);
      out.x = at.x;
      out.y = at.y;
    };
  }
  const { axis, width, height, columns, rows, shifts } = warp;
  const perX = (columns - 1) / width;
  const perY = (rows - 1) / height;
  return (x, y, out) => {
    const gx = Math.max(0, Math.min(columns - 1, x * perX));
    const gy = Math.max(0, Math.min(rows - 1, y * perY));
    const column = Math.min(columns - 2, Math.floor(gx));
    const row = Math.min(rows - 2, Math.floor(gy));
    const [fx, fy] = [gx - column, gy - row];
    const at = row * columns + column;
    const above = shifts[at]! + fx * (shifts[at + 1]! - shifts[at]!);
    const below = shifts[at + columns]! + fx * (shifts[at + columns + 1]! - shifts[at + columns]!);
    const shift = above + fy * (below - above);
    out.x = axis === 'x' ? x + shift : x;
    out.y = axis === 'y' ? y + shift : y;
  };
}
