import { rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import { LANES, NO_LANES, parentOf, type Grid, type LaneSums } from './gridSteps.ts';

/**
 * A symmetric five-point system on a grid: for each pixel p
 *   (extra[p] + sum of its edge weights) u[p] - sum over neighbours (weight x u[neighbour]) = right-hand side.
 * Pixels outside the domain have no edges and extra 0; they keep u = 0 and their right-hand side is not looked at.
 */
export interface GridSystem {
  width: number;
  height: number;
  /** Weight of the edge to the pixel on the right. */
  right: Float32Array;
  /** Weight of the edge to the pixel below. */
  down: Float32Array;
  /** Pull towards zero: screening plus one for each edge to a pixel of fixed value. */
  extra: Float32Array;
}

const COARSEST_PIXELS = 64;
const COARSEST_SWEEPS = 24;

/**
 * The solution of a system for up to four right-hand sides at once (interleaved, four values a pixel): conjugate
 * gradients preconditioned by one multigrid W-cycle over 2 x 2 aggregates with symmetric Gauss-Seidel smoothing
 * (U. Trottenberg et al.: Multigrid, 2001, appendix A). Stops when every residual has fallen to `tolerance` of its
 * right-hand side, or after `mostSteps`. O(pixels in the domain) a step; six steps leave about .01 levels of a
 * correction of 10. What it returns lives in the kernels' scratch.
 */
export function solveGrid(
  system: GridSystem,
  rightSides: Float32Array,
  kernels: Kernels,
  tolerance = 2e-3,
  mostSteps = 12,
): Float32Array {
  const solution = kernels.scratch.floats(rightSides.length);
  const giveBack = kernels.scratch.hold();
  const grids = makeGrids(system, kernels);
  const top = grids[0]!;
  const vector = (): Float32Array => kernels.scratch.floats(top.width * top.height * LANES);
  // The cycle corrects what is left, from 0 each time: `advance` sees to that.
  const vectors = { u: vector(), residual: top.rightSide, direction: vector(), product: vector() };
  copyIntoDomain(top, rightSides, vectors.residual);
  // With nothing done yet this only measures the residuals.
  let left = kernels.advance(top, vectors, NO_LANES);
  const goals = left.map((square) => tolerance * tolerance * square);
  let previous = NO_LANES;
  for (let step = 0; step < mostSteps && left.some((square, c) => square > goals[c]!); step++) {
    cycle(grids, 0, kernels);
    const agreement = kernels.agreement(top, vectors);
    kernels.redirect(top, vectors, step === 0 ? NO_LANES : quotient(agreement, previous));
    const energy = kernels.multiply(top, vectors);
    left = kernels.advance(top, vectors, quotient(agreement, energy));
    previous = agreement;
  }
  copyFromDomain(top, vectors.u, solution);
  giveBack();
  return solution;
}

/** Lane by lane; a lane that has nothing left to do stays as it is. */
const quotient = (a: LaneSums, b: LaneSums): LaneSums => {
  const of = (c: 0 | 1 | 2 | 3): number => (b[c] > 0 ? a[c] / b[c] : 0);
  return [of(0), of(1), of(2), of(3)];
};

function copyIntoDomain(grid: Grid, plain: Float32Array, padded: Float32Array): void {
  const row = (grid.width - 2) * LANES;
  for (let y = 1; y < grid.height - 1; y++) {
    padded.set(plain.subarray((y - 1) * row, y * row), (y * grid.width + 1) * LANES);
  }
}

function copyFromDomain(grid: Grid, padded: Float32Array, plain: Float32Array): void {
  const row = (grid.width - 2) * LANES;
  for (let y = 1; y < grid.height - 1; y++) {
    const from = (y * grid.width + 1) * LANES;
    plain.set(padded.subarray(from, from + row), (y - 1) * row);
  }
}

function makeGrids(system: GridSystem, kernels: Kernels): Grid[] {
  const grids: Grid[] = [];
  let next = padded(system, kernels);
  for (;;) {
    const { grid, pixels } = makeGrid(next, kernels);
    grids.push(grid);
    if (pixels <= COARSEST_PIXELS) return grids;
    next = aggregate(next, kernels);
  }
}

const emptySystem = (width: number, height: number, { scratch }: Kernels): GridSystem => ({
  width,
  height,
  right: scratch.floats(width * height),
  down: scratch.floats(width * height),
  extra: scratch.floats(width * height),
});

interface FromSystem {
  from: GridSystem;
  to: GridSystem;
}

/** The system with the ring of empty pixels that a `Grid` has. */
function padded(system: GridSystem, kernels: Kernels): GridSystem {
  const out = emptySystem(system.width + 2, system.height + 2, kernels);
  kernels.inBands(PAD, { from: system, to: out }, rowBands(system.height));
  return out;
}

function padBand({ from, to }: FromSystem, band: number): void {
  const rows = rowsOfBand(band, from.height);
  for (let y = rows.from; y < rows.to; y++) {
    const at = (y + 1) * to.width + 1;
    to.right.set(from.right.subarray(y * from.width, (y + 1) * from.width), at);
    to.down.set(from.down.subarray(y * from.width, (y + 1) * from.width), at);
    to.extra.set(from.extra.subarray(y * from.width, (y + 1) * from.width), at);
  }
}

export const PAD: BandWork<FromSystem> = { name: 'pad', band: padBand };

interface DiagonalWork {
  system: GridSystem;
  grid: Pick<Grid, 'inverse' | 'starts' | 'ends'>;
  /** Pixels in the domain, of each row. */
  counts: Int32Array;
}

function makeGrid(system: GridSystem, kernels: Kernels): { grid: Grid; pixels: number } {
  const { width, height, right, down } = system;
  const { scratch } = kernels;
  const made = { inverse: scratch.floats(width * height), starts: scratch.ints(height), ends: scratch.ints(height) };
  const counts = scratch.ints(height);
  kernels.inBands(DIAGONALS, { system, grid: made, counts }, rowBands(height));
  const vector = (): Float32Array => scratch.floats(width * height * LANES);
  return {
    grid: { width, height, right, down, ...made, solution: vector(), rightSide: vector() },
    pixels: counts.reduce((sum, count) => sum + count, 0),
  };
}

function diagonalsBand({ system, grid, counts }: DiagonalWork, band: number): void {
  const { width, height, right, down, extra } = system;
  const { inverse, starts, ends } = grid;
  const rows = rowsOfBand(band, height);
  for (let y = Math.max(1, rows.from); y < Math.min(height - 1, rows.to); y++) {
    let pixels = 0;
    for (let i = y * width + 1; i < (y + 1) * width - 1; i++) {
      const diagonal = extra[i]! + right[i]! + down[i]! + right[i - 1]! + down[i - width]!;
      if (diagonal <= 0) continue;
      inverse[i] = 1 / diagonal;
      if (pixels === 0) starts[y] = i;
      ends[y] = i + 1;
      pixels++;
    }
    counts[y] = pixels;
  }
}

export const DIAGONALS: BandWork<DiagonalWork> = { name: 'diagonals', band: diagonalsBand };

const coarseSide = (side: number): number => Math.ceil((side - 2) / 2) + 2;

/** The (padded) Galerkin coarse system for piecewise constant 2 x 2 aggregates: weights and pulls are summed. */
function aggregate(fine: GridSystem, kernels: Kernels): GridSystem {
  const out = emptySystem(coarseSide(fine.width), coarseSide(fine.height), kernels);
  kernels.inBands(AGGREGATES, { from: fine, to: out }, rowBands(out.height));
  return out;
}

/** Sums up for a band of coarse rows. */
function aggregatesBand({ from, to }: FromSystem, band: number): void {
  const { width, height, right, down, extra } = from;
  const rows = rowsOfBand(band, to.height);
  const end = Math.min(height - 1, 2 * rows.to - 1);
  for (let y = Math.max(1, 2 * rows.from - 1); y < end; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const cell = parentOf(from, to, i, y);
      to.extra[cell]! += extra[i]!;
      // The last of two columns (rows) is joined to the next cell's.
      if (x % 2 === 0) to.right[cell]! += right[i]!;
      if (y % 2 === 0) to.down[cell]! += down[i]!;
    }
  }
}

export const AGGREGATES: BandWork<FromSystem> = { name: 'aggregates', band: aggregatesBand };

function cycle(grids: Grid[], depth: number, kernels: Kernels): void {
  const grid = grids[depth]!;
  const next = grids[depth + 1];
  if (!next) {
    kernels.relax(grid, COARSEST_SWEEPS);
    return;
  }
  kernels.smooth(grid, true);
  // Two coarse visits from the first coarse level on make a W-cycle, without which constant aggregates converge slowly.
  for (let visit = 0; visit < (depth === 0 ? 1 : 2); visit++) {
    kernels.restrict(grid, next);
    cycle(grids, depth + 1, kernels);
    kernels.prolong(grid, next);
  }
  kernels.smooth(grid, false);
}
