import { Matrix, solve } from 'ml-matrix';
import { multiplyHomographies, type Homography } from '../geometry/homography.ts';
import { sampled, type DetailField } from './detailField.ts';
import type { Points } from './points.ts';

/**
 * What a map may be: a step along a plane, whose vanishing line is kept, or found with it; or moved and sheared, or any
 * that keeps lines straight.
 */
export type Freedom = 'along the plane' | 'step' | 'affine' | 'any';

const ROUNDS = 8;
/** A change of no point by more than so many px ends it. */
const SETTLED_PX = 0.02;
/** A difference of so many times the median of structure's, or of grain's levels if that is more, counts a quarter. */
const SPREAD = 1.5;
const LEAST_SPREAD = 4;
const DAMPING = 1e-3;
/** Of fewer points seen at both places nothing is told. */
const LEAST_POINTS = 40;

/** Where points lie: `reach` px around a middle. */
export interface Around {
  x: number;
  y: number;
  reach: number;
}

/**
 * Changes a map of the picture onto itself so that what is seen where it leads is what is seen at `points`, by least squares
 * that hardly heed what differs most (B. Lucas, T. Kanade, IJCAI 1981; weights by S. Geman, D. McClure). Undefined where
 * too little is seen.
 */
export function registerMap(
  field: DetailField,
  points: Points,
  start: Homography,
  freedom: Freedom,
  around: Around,
): Homography | undefined {
  const model =
    freedom === 'affine' || freedom === 'any' ? anyMap(start, freedom, around) : stepMap(start, freedom, around);
  const { terms } = model;
  const out = new Float64Array(3);
  const residuals = new Float32Array(points.count);
  const row = new Float64Array(terms);
  let spread = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const normal = new Float64Array(terms * terms);
    const right = new Float64Array(terms);
    const map = model.map();
    let [seen, telling] = [0, 0];
    for (let k = 0; k < points.count; k++) {
      const [px, py] = [points.x[k]!, points.y[k]!];
      const w = map[6] * px + map[7] * py + map[8];
      const u = (map[0] * px + map[1] * py + map[2]) / w;
      const v = (map[3] * px + map[4] * py + map[5]) / w;
      if (!(w > 0) || !sampled(field, u, v, out)) continue;
      const residual = points.detail[k]! - out[0]!;
      seen++;
      // What is flat at both places fits whatever the map.
      if (Math.abs(points.detail[k]!) + Math.abs(out[0]!) > 2 * field.texture)
        residuals[telling++] = Math.abs(residual);
      if (round === 0) continue;
      const weight = 1 / (1 + (residual / spread) ** 2) ** 2;
      model.change(px, py, u, v, w, out[1]!, out[2]!, row);
      for (let r = 0; r < terms; r++) {
        const own = weight * row[r]!;
        right[r]! += own * residual;
        for (let c = 0; c <= r; c++) normal[r * terms + c]! += own * row[c]!;
      }
    }
    if (seen < LEAST_POINTS) return undefined;
    const sorted = residuals.subarray(0, telling).toSorted();
    spread = Math.max(LEAST_SPREAD, SPREAD * (sorted[telling >> 1] ?? 0));
    if (round === 0) continue;
    const by = solved(normal, right, terms);
    model.add(by);
    if (by.every((value) => Math.abs(value) < SETTLED_PX)) break;
  }
  const map = model.map();
  return map.every(Number.isFinite) ? map : undefined;
}

/** A family of maps. */
interface Model {
  /** By so many numbers it changes, each in px at the reach. */
  terms: number;
  map(): Homography;
  /** How each changes the colour at (px, py), that is seen at (u, v), where it changes by gx to the right and gy down. */
  change(px: number, py: number, u: number, v: number, w: number, gx: number, gy: number, row: Float64Array): void;
  add(by: readonly number[]): void;
}

/** Maps changed before they are applied: moved, sheared, tilted. */
function anyMap(start: Homography, freedom: 'affine' | 'any', around: Around): Model {
  let map = start;
  const terms = freedom === 'affine' ? 6 : 8;
  const { x, y, reach } = around;
  return {
    terms,
    map: () => map,
    change(px, py, u, v, w, gxThere, gyThere, row) {
      const [a, b] = [(px - x) / reach, (py - y) / reach];
      const gx = (gxThere * (map[0] - u * map[6]) + gyThere * (map[3] - v * map[6])) / w;
      const gy = (gxThere * (map[1] - u * map[7]) + gyThere * (map[4] - v * map[7])) / w;
      [row[0], row[1], row[2], row[3], row[4], row[5]] = [gx, gy, gx * a, gx * b, gy * a, gy * b];
      if (terms < 8) return;
      const both = gx * a + gy * b;
      [row[6], row[7]] = [both * a, both * b];
    },
    add: (by) => (map = multiplyHomographies(map, changeBy(by, around))),
  };
}

/**
 * Steps along a plane: all points move towards one point of its vanishing line l, as I + a l' with l' a = 0 (elations;
 * R. Hartley, A. Zisserman: Multiple View Geometry, 2004, A7.3). Coordinates are those around, in reaches.
 */
function stepMap(start: Homography, freedom: 'along the plane' | 'step', { x, y, reach }: Around): Model {
  const into: Homography = [1 / reach, 0, -x / reach, 0, 1 / reach, -y / reach, 0, 0, 1];
  const back: Homography = [reach, 0, x, 0, reach, y, 0, 0, 1];
  const own = multiplyHomographies(into, multiplyHomographies(start, back));
  const size = (own[0] + own[4] + own[8]) / 3;
  const rest = own.map((value, k) => value / size - (k % 4 === 0 ? 1 : 0));
  let [a1, a2] = [rest[2]!, rest[5]!];
  const leading = Math.abs(a1) > Math.abs(a2) ? 0 : 3;
  const by = rest[leading + 2]!;
  let [l1, l2] = Math.abs(by) > 1e-6 ? [rest[leading]! / by, rest[leading + 1]! / by] : [0, 0];
  return {
    terms: freedom === 'step' ? 4 : 2,
    map() {
      const a3 = -(l1 * a1 + l2 * a2);
      const step: Homography = [1 + a1 * l1, a1 * l2, a1, a2 * l1, 1 + a2 * l2, a2, a3 * l1, a3 * l2, 1 + a3];
      return multiplyHomographies(back, multiplyHomographies(step, into));
    },
    change(px, py, u, v, _w, gx, gy, row) {
      const [p, q] = [(px - x) / reach, (py - y) / reach];
      const [p2, q2] = [(u - x) / reach, (v - y) / reach];
      const s = l1 * p + l2 * q + 1;
      const a3 = -(l1 * a1 + l2 * a2);
      const w = 1 + a3 * s;
      const inward = gx * p2 + gy * q2;
      row[0] = (s * (gx + l1 * inward)) / w;
      row[1] = (s * (gy + l2 * inward)) / w;
      if (row.length < 4) return;
      const along = gx * a1 + gy * a2;
      row[2] = (along * p - inward * (a3 * p - a1 * s)) / w;
      row[3] = (along * q - inward * (a3 * q - a2 * s)) / w;
    },
    add(changes) {
      a1 += changes[0]! / reach;
      a2 += changes[1]! / reach;
      l1 += (changes[2] ?? 0) / reach;
      l2 += (changes[3] ?? 0) / reach;
    },
  };
}

function solved(normal: Float64Array, right: Float64Array, n: number): number[] {
  const matrix = Matrix.zeros(n, n);
  let trace = 0;
  for (let r = 0; r < n; r++) trace += normal[r * n + r]!;
  for (let r = 0; r < n; r++) {
    for (let c = 0; c <= r; c++) {
      matrix.set(r, c, normal[r * n + c]!);
      matrix.set(c, r, normal[r * n + c]!);
    }
    matrix.set(r, r, normal[r * n + r]! + (DAMPING * trace) / n + 1e-9);
  }
  return solve(matrix, Matrix.columnVector(Array.from(right))).to1DArray();
}

/** The map near the identity that moves points by: px, px; px at the reach, of each direction by each; and perspective. */
function changeBy(by: readonly number[], { x, y, reach }: Around): Homography {
  const [tx = 0, ty = 0, xx = 0, xy = 0, yx = 0, yy = 0, px = 0, py = 0] = by;
  const within: Homography = [
    1 + xx / reach,
    xy / reach,
    tx,
    yx / reach,
    1 + yy / reach,
    ty,
    -px / (reach * reach),
    -py / (reach * reach),
    1,
  ];
  return multiplyHomographies([1, 0, x, 0, 1, y, 0, 0, 1], multiplyHomographies(within, [1, 0, -x, 0, 1, -y, 0, 0, 1]));
}
