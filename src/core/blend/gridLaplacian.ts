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

/** A system with a ring of one empty pixel around it, so that the hot loops need no bounds checks. */
interface GridLevel extends GridSystem {
  /** Indices of the pixels inside the domain, in raster order. */
  active: Int32Array;
  /** For each active pixel the index of its 2 x 2 aggregate on the next level. */
  parent: Int32Array;
  inverseDiagonal: Float32Array;
  solution: Float32Array;
  rightSide: Float32Array;
}

const COARSEST_PIXELS = 64;
const COARSEST_SWEEPS = 24;

/**
 * A solver for one system and any number of right-hand sides: conjugate gradients preconditioned by one multigrid
 * W-cycle over 2 x 2 aggregates with symmetric Gauss-Seidel smoothing (U. Trottenberg et al.: Multigrid, 2001,
 * appendix A). Stops when the residual has fallen to `tolerance` of the right-hand side, or after `mostSteps`.
 * O(pixels in the domain) a step; six steps leave about .01 levels of a correction of 10.
 */
export function createGridSolver(system: GridSystem): {
  solve(rightSide: Float32Array, tolerance?: number, mostSteps?: number): Float32Array;
} {
  const levels = [makeLevel(padded(system))];
  while (levels[levels.length - 1]!.active.length > COARSEST_PIXELS) {
    levels.push(makeLevel(aggregate(levels[levels.length - 1]!)));
  }
  const top = levels[0]!;
  const { active } = top;
  return {
    solve(rightSide, tolerance = 2e-3, mostSteps = 12) {
      const n = top.width * top.height;
      const u = new Float32Array(n);
      const r = new Float32Array(n);
      for (const i of active) r[i] = rightSide[unpaddedIndex(i, top.width)]!;
      const direction = new Float32Array(n);
      const product = new Float32Array(n);
      const goal = tolerance * tolerance * dot(active, r, r);
      let previous = 0;
      for (let step = 0; step < mostSteps && dot(active, r, r) > goal; step++) {
        const z = precondition(levels, r);
        const rz = dot(active, r, z);
        const beta = step === 0 ? 0 : rz / previous;
        for (const i of active) direction[i] = z[i]! + beta * direction[i]!;
        multiply(top, direction, product);
        const alpha = rz / dot(active, direction, product);
        for (const i of active) {
          u[i]! += alpha * direction[i]!;
          r[i]! -= alpha * product[i]!;
        }
        previous = rz;
      }
      const out = new Float32Array(rightSide.length);
      for (const i of active) out[unpaddedIndex(i, top.width)] = u[i]!;
      return out;
    },
  };
}

const unpaddedIndex = (i: number, paddedWidth: number): number => {
  const y = Math.floor(i / paddedWidth);
  return (y - 1) * (paddedWidth - 2) + (i - y * paddedWidth) - 1;
};

function padded(system: GridSystem): GridSystem {
  const width = system.width + 2;
  const height = system.height + 2;
  const pad = (plane: Float32Array): Float32Array => {
    const out = new Float32Array(width * height);
    for (let y = 0; y < system.height; y++) {
      out.set(plane.subarray(y * system.width, (y + 1) * system.width), (y + 1) * width + 1);
    }
    return out;
  };
  return { width, height, right: pad(system.right), down: pad(system.down), extra: pad(system.extra) };
}

function dot(active: Int32Array, a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let k = 0; k < active.length; k++) sum += a[active[k]!]! * b[active[k]!]!;
  return sum;
}

function makeLevel(system: GridSystem): GridLevel {
  const { width, height, right, down, extra } = system;
  const n = width * height;
  const inverseDiagonal = new Float32Array(n);
  const inside: number[] = [];
  for (let y = 1; y < height - 1; y++) {
    for (let i = y * width + 1; i < (y + 1) * width - 1; i++) {
      const diagonal = extra[i]! + right[i]! + down[i]! + right[i - 1]! + down[i - width]!;
      if (diagonal <= 0) continue;
      inverseDiagonal[i] = 1 / diagonal;
      inside.push(i);
    }
  }
  const active = Int32Array.from(inside);
  return {
    ...system,
    active,
    parent: active.map((i) => parentOf(i, width)),
    inverseDiagonal,
    solution: new Float32Array(n),
    rightSide: new Float32Array(n),
  };
}

const coarseWidth = (width: number): number => Math.ceil((width - 2) / 2) + 2;

function parentOf(i: number, width: number): number {
  const y = Math.floor(i / width);
  return (((y - 1) >> 1) + 1) * coarseWidth(width) + ((i - y * width - 1) >> 1) + 1;
}

/** The Galerkin coarse system for piecewise constant 2 x 2 aggregates: weights and pulls are summed. */
function aggregate(fine: GridLevel): GridSystem {
  const width = coarseWidth(fine.width);
  const height = coarseWidth(fine.height);
  const right = new Float32Array(width * height);
  const down = new Float32Array(width * height);
  const extra = new Float32Array(width * height);
  for (let k = 0; k < fine.active.length; k++) {
    const i = fine.active[k]!;
    const cell = fine.parent[k]!;
    const y = Math.floor(i / fine.width) - 1;
    const x = (i % fine.width) - 1;
    extra[cell]! += fine.extra[i]!;
    if (x & 1) right[cell]! += fine.right[i]!;
    if (y & 1) down[cell]! += fine.down[i]!;
  }
  return { width, height, right, down, extra };
}

function multiply(level: GridLevel, u: Float32Array, out: Float32Array): void {
  const { width, active, right, down, inverseDiagonal } = level;
  for (let k = 0; k < active.length; k++) {
    const i = active[k]!;
    out[i] =
      u[i]! / inverseDiagonal[i]! -
      right[i - 1]! * u[i - 1]! -
      right[i]! * u[i + 1]! -
      down[i - width]! * u[i - width]! -
      down[i]! * u[i + width]!;
  }
}

function smooth(level: GridLevel, forward: boolean): void {
  const { width, active, right, down, inverseDiagonal, solution, rightSide } = level;
  const count = active.length;
  for (let k = 0; k < count; k++) {
    const i = active[forward ? k : count - 1 - k]!;
    solution[i] =
      (rightSide[i]! +
        right[i - 1]! * solution[i - 1]! +
        right[i]! * solution[i + 1]! +
        down[i - width]! * solution[i - width]! +
        down[i]! * solution[i + width]!) *
      inverseDiagonal[i]!;
  }
}

function precondition(levels: GridLevel[], r: Float32Array): Float32Array {
  const top = levels[0]!;
  top.rightSide.set(r);
  top.solution.fill(0);
  cycle(levels, 0);
  return top.solution;
}

function cycle(levels: GridLevel[], depth: number): void {
  const level = levels[depth]!;
  const next = levels[depth + 1];
  if (!next) {
    for (let sweep = 0; sweep < COARSEST_SWEEPS; sweep++) {
      smooth(level, true);
      smooth(level, false);
    }
    return;
  }
  smooth(level, true);
  // Two coarse visits from the first coarse level on make a W-cycle, without which constant aggregates converge slowly.
  for (let visit = 0; visit < (depth === 0 ? 1 : 2); visit++) {
    restrictResidual(level, next);
    next.solution.fill(0);
    cycle(levels, depth + 1);
    for (let k = 0; k < level.active.length; k++) {
      level.solution[level.active[k]!]! += next.solution[level.parent[k]!]!;
    }
  }
  smooth(level, false);
}

function restrictResidual(level: GridLevel, next: GridLevel): void {
  const { width, active, parent, right, down, inverseDiagonal, solution, rightSide } = level;
  next.rightSide.fill(0);
  for (let k = 0; k < active.length; k++) {
    const i = active[k]!;
    next.rightSide[parent[k]!]! +=
      rightSide[i]! -
      solution[i]! / inverseDiagonal[i]! +
      right[i - 1]! * solution[i - 1]! +
      right[i]! * solution[i + 1]! +
      down[i - width]! * solution[i - width]! +
      down[i]! * solution[i + width]!;
  }
}
