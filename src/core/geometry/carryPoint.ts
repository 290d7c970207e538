import { applyHomography, type Homography, type Point } from './homography.ts';
import { backThrough, type CarryBack, type Warp } from './warp.ts';

/** Where points of a picture come to lie when it is carried over, and back. */
export interface PointCarry {
  to(point: Point): Point;
  back(point: Point): Point;
}

/** Halves a picture's length to far below a px. */
const HALVINGS = 40;

/**
 * The carrying of points through a chain of warps. A displaced warp tells only the way back, which never turns round
 * along its axis: its way forth is found by halving.
 */
export function carryPoint(warps: readonly Warp[]): PointCarry {
  const back = backThrough(warps);
  const ways = warps.map((warp) => (warp.kind === 'projective' ? byHomography(warp.toTarget) : byHalving(warp)));
  return { to: (point) => ways.reduce((at, way) => way(at), point), back: (point) => through(back, point) };
}

const byHomography =
  (map: Homography) =>
  ({ x, y }: Point): Point =>
    applyHomography(map, x, y);

function byHalving(warp: Extract<Warp, { kind: 'displaced' }>): (point: Point) => Point {
  const { axis } = warp;
  const back = backThrough([warp]);
  const length = axis === 'x' ? warp.width : warp.height;
  return (point) => {
    // What lies beside the picture is shifted like its edge.
    let [low, high] = [Math.min(-length, point[axis] - length), Math.max(2 * length, point[axis] + length)];
    for (let k = 0; k < HALVINGS; k++) {
      const middle = (low + high) / 2;
      if (through(back, { ...point, [axis]: middle })[axis] < point[axis]) low = middle;
      else high = middle;
    }
    return { ...point, [axis]: (low + high) / 2 };
  };
}

function through(carry: CarryBack, { x, y }: Point): Point {
  const at = Float64Array.of(x, y);
  carry(at, 1);
  return { x: at[0]!, y: at[1]! };
}
