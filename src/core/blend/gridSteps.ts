import { BAND_ROWS } from '../kernels/bands.ts';

/** How many right-hand sides are solved at once; vectors hold them interleaved. */
export const LANES = 4;

/**
 * A symmetric five-point system on a grid with a ring of one empty pixel around it, so that hot loops need no bounds
 * checks: for each pixel p of the domain
 *   u[p] / inverse[p] - sum over neighbours (weight x u[neighbour]) = right side.
 */
export interface Grid {
  width: number;
  height: number;
  /** Weight of the edge to the pixel on the right. */
  right: Float32Array;
  /** Weight of the edge to the pixel below. */
  down: Float32Array;
  /** 1 / the diagonal; 0 outside the domain. */
  inverse: Float32Array;
  /** For each row the index of its first pixel in the domain, and one past its last. */
  starts: Int32Array;
  ends: Int32Array;
  /** LANES values a pixel. */
  solution: Float32Array;
  rightSide: Float32Array;
}

/** The vectors of a conjugate-gradient solution, LANES values a pixel. */
export interface GridVectors {
  u: Float32Array;
  residual: Float32Array;
  direction: Float32Array;
  product: Float32Array;
}

export type LaneSums = readonly [number, number, number, number];
export const NO_LANES: LaneSums = [0, 0, 0, 0];

export const addLanes = (a: LaneSums, b: LaneSums): LaneSums => [a[0] + b[0], a[1] + b[1], a[2] + b[2], a[3] + b[3]];

/** Calls `visit` for the domain's pixels of a band of rows, in raster order or backwards. */
function visitBand(grid: Grid, band: number, forward: boolean, visit: (i: number, row: number) => void): void {
  const firstRow = band * BAND_ROWS;
  visitRows(grid, firstRow, Math.min(grid.height, firstRow + BAND_ROWS), forward, visit);
}

function visitRows(
  grid: Grid,
  firstRow: number,
  endRow: number,
  forward: boolean,
  visit: (i: number, row: number) => void,
): void {
  for (let k = firstRow; k < endRow; k++) {
    const row = forward ? k : endRow - 1 - (k - firstRow);
    const from = grid.starts[row]!;
    const to = grid.ends[row]!;
    for (let m = from; m < to; m++) {
      const i = forward ? m : to - 1 - (m - from);
      if (grid.inverse[i] !== 0) visit(i, row);
    }
  }
}

function neighbourSum({ width, right, down }: Grid, values: Float32Array, i: number, lane: number): number {
  return (
    right[i - 1]! * values[LANES * (i - 1) + lane]! +
    right[i]! * values[LANES * (i + 1) + lane]! +
    down[i - width]! * values[LANES * (i - width) + lane]! +
    down[i]! * values[LANES * (i + width) + lane]!
  );
}

/** A Gauss-Seidel sweep over a band of rows. */
export function smoothBand(grid: Grid, forward: boolean, band: number): void {
  visitBand(grid, band, forward, (i) => smoothPixel(grid, i));
}

function smoothPixel(grid: Grid, i: number): void {
  const { solution, rightSide, inverse } = grid;
  for (let c = 0; c < LANES; c++) {
    solution[LANES * i + c] = (rightSide[LANES * i + c]! + neighbourSum(grid, solution, i, c)) * inverse[i]!;
  }
}

/** Gauss-Seidel sweeps over all rows, each forward and back. */
export function relaxGrid(grid: Grid, sweeps: number): void {
  for (let sweep = 0; sweep < sweeps; sweep++) {
    for (const forward of [true, false]) visitRows(grid, 0, grid.height, forward, (i) => smoothPixel(grid, i));
  }
}

/** The right side of the next grid (a band of its rows): what is left over on each cell's 2 x 2 pixels. Zeroes its solution. */
export function restrictBand(grid: Grid, next: Grid, band: number): void {
  const { width, height, solution, rightSide, inverse } = grid;
  visitBand(next, band, true, (cell, row) => {
    const x = 2 * (cell - row * next.width) - 1;
    const y = 2 * row - 1;
    for (let c = 0; c < LANES; c++) {
      let sum = 0;
      for (let v = y; v < Math.min(y + 2, height - 1); v++) {
        for (let i = v * width + x; i < v * width + Math.min(x + 2, width - 1); i++) {
          if (inverse[i] === 0) continue;
          sum +=
            rightSide[LANES * i + c]! - solution[LANES * i + c]! / inverse[i]! + neighbourSum(grid, solution, i, c);
        }
      }
      next.rightSide[LANES * cell + c] = sum;
      next.solution[LANES * cell + c] = 0;
    }
  });
}

/** Adds the next grid's solution to a band of rows. */
export function prolongBand(grid: Grid, next: Grid, band: number): void {
  visitBand(grid, band, true, (i, row) => {
    const cell = parentOf(grid, next, i, row);
    for (let c = 0; c < LANES; c++) grid.solution[LANES * i + c]! += next.solution[LANES * cell + c]!;
  });
}

/** The cell of the next grid that pixel `i` of `row` belongs to. */
export const parentOf = (grid: { width: number }, next: { width: number }, i: number, row: number): number =>
  (((row - 1) >> 1) + 1) * next.width + ((i - row * grid.width - 1) >> 1) + 1;

/** product = A direction; returns the band's share of direction x product. */
export function multiplyBand(grid: Grid, { direction, product }: GridVectors, band: number): LaneSums {
  return sumOverBand(grid, band, (i, c) => {
    const d = direction[LANES * i + c]!;
    const q = Math.fround(d / grid.inverse[i]! - neighbourSum(grid, direction, i, c));
    product[LANES * i + c] = q;
    return d * q;
  });
}

/** u += factor x direction, residual -= factor x product, solution = 0; returns the band's share of residual squared. */
export function advanceBand(
  grid: Grid,
  { u, residual, direction, product }: GridVectors,
  factor: LaneSums,
  band: number,
): LaneSums {
  return sumOverBand(grid, band, (i, c) => {
    const at = LANES * i + c;
    u[at]! += factor[c]! * direction[at]!;
    residual[at]! -= factor[c]! * product[at]!;
    grid.solution[at] = 0;
    return residual[at]! * residual[at]!;
  });
}

/** The band's share of residual x solution. */
export const agreementBand = (grid: Grid, { residual }: GridVectors, band: number): LaneSums =>
  sumOverBand(grid, band, (i, c) => residual[LANES * i + c]! * grid.solution[LANES * i + c]!);

/** direction = solution + factor x direction. */
export function redirectBand(grid: Grid, { direction }: GridVectors, factor: LaneSums, band: number): void {
  visitBand(grid, band, true, (i) => {
    for (let c = 0; c < LANES; c++) {
      const at = LANES * i + c;
      direction[at] = grid.solution[at]! + factor[c]! * direction[at]!;
    }
  });
}

function sumOverBand(grid: Grid, band: number, term: (i: number, lane: number) => number): LaneSums {
  const sums: [number, number, number, number] = [0, 0, 0, 0];
  visitBand(grid, band, true, (i) => {
    for (let c = 0; c < LANES; c++) sums[c]! += term(i, c);
  });
  return sums;
}
