import type { Kernels } from '../kernels/kernels.ts';
import type { Scratch } from '../kernels/scratch.ts';
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
 * A solver for one system and up to four right-hand sides at once (interleaved, four values a pixel): conjugate
 * gradients preconditioned by one multigrid W-cycle over 2 x 2 aggregates with symmetric Gauss-Seidel smoothing
 * (U. Trottenberg et al.: Multigrid, 2001, appendix A). Stops when every residual has fallen to `tolerance` of its
 * right-hand side, or after `mostSteps`. O(pixels in the domain) a step; six steps leave about .01 levels of a
 * correction of 10. Lives in the kernels' scratch: ends with their next reset.
 */
export function createGridSolver(
  system: GridSystem,
  kernels: Kernels,
): {
  solve(rightSides: Float32Array, tolerance?: number, mostSteps?: number): Float32Array;
} {
  const grids = makeGrids(system, kernels.scratch);
  const top = grids[0]!;
  const n = top.width * top.height * LANES;
  const vector = (): Float32Array => kernels.scratch.floats(n);
  const vectors = { u: vector(), residual: vector(), direction: vector(), product: vector() };
  return {
    solve(rightSides, tolerance = 2e-3, mostSteps = 12) {
      vectors.u.fill(0);
      vectors.direction.fill(0);
      copyIntoDomain(top, rightSides, vectors.residual);
      // With nothing done yet this only measures the residuals.
      let left = kernels.advance(top, vectors, NO_LANES);
      const goals = left.map((square) => tolerance * tolerance * square);
      let previous = NO_LANES;
      for (let step = 0; step < mostSteps && left.some((square, c) => square > goals[c]!); step++) {
        top.rightSide.set(vectors.residual);
        top.solution.fill(0);
        cycle(grids, 0, kernels);
        const agreement = kernels.agreement(top, vectors);
        kernels.redirect(top, vectors, step === 0 ? NO_LANES : quotient(agreement, previous));
        const energy = kernels.multiply(top, vectors);
        left = kernels.advance(top, vectors, quotient(agreement, energy));
        previous = agreement;
      }
      return copyFromDomain(top, vectors.u);
    },
  };
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

function copyFromDomain(grid: Grid, padded: Float32Array): Float32Array {
  const row = (grid.width - 2) * LANES;
  const plain = new Float32Array(row * (grid.height - 2));
  for (let y = 1; y < grid.height - 1; y++) {
    const from = (y * grid.width + 1) * LANES;
    plain.set(padded.subarray(from, from + row), (y - 1) * row);
  }
  return plain;
}

function makeGrids(system: GridSystem, scratch: Scratch): Grid[] {
  const grids: Grid[] = [];
  let next = padded(system, scratch);
  for (;;) {
    const { grid, pixels } = makeGrid(next, scratch);
    grids.push(grid);
    if (pixels <= COARSEST_PIXELS) return grids;
    next = aggregate(next, scratch);
  }
}

/** The system with the ring of empty pixels that a `Grid` has. */
function padded(system: GridSystem, scratch: Scratch): GridSystem {
  const width = system.width + 2;
  const height = system.height + 2;
  const pad = (plane: Float32Array): Float32Array => {
    const out = scratch.floats(width * height);
    for (let y = 0; y < system.height; y++) {
      out.set(plane.subarray(y * system.width, (y + 1) * system.width), (y + 1) * width + 1);
    }
    return out;
  };
  return { width, height, right: pad(system.right), down: pad(system.down), extra: pad(system.extra) };
}

function makeGrid(system: GridSystem, scratch: Scratch): { grid: Grid; pixels: number } {
  const { width, height, right, down, extra } = system;
  const inverse = scratch.floats(width * height);
  const starts = scratch.ints(height);
  const ends = scratch.ints(height);
  let pixels = 0;
  for (let y = 1; y < height - 1; y++) {
    for (let i = y * width + 1; i < (y + 1) * width - 1; i++) {
      const diagonal = extra[i]! + right[i]! + down[i]! + right[i - 1]! + down[i - width]!;
      if (diagonal <= 0) continue;
      inverse[i] = 1 / diagonal;
      if (ends[y] === 0) starts[y] = i;
      ends[y] = i + 1;
      pixels++;
    }
  }
  const vector = (): Float32Array => scratch.floats(width * height * LANES);
  return {
    grid: { width, height, right, down, inverse, starts, ends, solution: vector(), rightSide: vector() },
    pixels,
  };
}

const coarseSide = (side: number): number => Math.ceil((side - 2) / 2) + 2;

/** The (padded) Galerkin coarse system for piecewise constant 2 x 2 aggregates: weights and pulls are summed. */
function aggregate(fine: GridSystem, scratch: Scratch): GridSystem {
  const width = coarseSide(fine.width);
  const height = coarseSide(fine.height);
  const right = scratch.floats(width * height);
  const down = scratch.floats(width * height);
  const extra = scratch.floats(width * height);
  for (let y = 1; y < fine.height - 1; y++) {
    for (let x = 1; x < fine.width - 1; x++) {
      const i = y * fine.width + x;
      const cell = parentOf(fine, { width }, i, y);
      extra[cell]! += fine.extra[i]!;
      // The last of two columns (rows) is joined to the next cell's.
      if (x % 2 === 0) right[cell]! += fine.right[i]!;
      if (y % 2 === 0) down[cell]! += fine.down[i]!;
    }
  }
  return { width, height, right, down, extra };
}

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
