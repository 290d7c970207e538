import { argument, pointer } from './control';

/*
 * Parts of a multigrid solver on padded grids, four right-hand sides at once (one a lane); see `gridSteps` in the core.
 * Arguments: 0 width, 2 right weights, 3 down weights, 4 inverse diagonal (0 outside the domain), 5 first and 6 end of
 * each row's domain, 7 solution, 8 right side, 9 rows a band, 10 forward; of the next coarser grid: 11 width,
 * 12 solution, 13 right side, 14 first and 15 end of each row; vectors: 16 u, 17 residual, 18 direction, 19 product,
 * 20 partial sums (four f64 a band), 22 a factor for each lane; 1 all rows, 21 the rows that bands run over.
 */

@inline
function scalar(plane: usize, i: i32): v128 {
  return v128.load32_splat(plane + (<usize>i << 2));
}

@inline
function vector(plane: usize, i: i32): v128 {
  return v128.load(plane + (<usize>i << 4));
}

@inline
function weightAt(plane: usize, i: i32): f32 {
  return load<f32>(plane + (<usize>i << 2));
}

@inline
function neighbours(solution: usize, right: usize, down: usize, i: i32, width: i32): v128 {
  return f32x4.add(
    f32x4.add(
      f32x4.mul(scalar(right, i - 1), vector(solution, i - 1)),
      f32x4.mul(scalar(right, i), vector(solution, i + 1)),
    ),
    f32x4.add(
      f32x4.mul(scalar(down, i - width), vector(solution, i - width)),
      f32x4.mul(scalar(down, i), vector(solution, i + width)),
    ),
  );
}

@inline
function spanStart(row: i32): i32 {
  return load<i32>(pointer(5) + (<usize>row << 2));
}

@inline
function spanEnd(row: i32): i32 {
  return load<i32>(pointer(6) + (<usize>row << 2));
}

@inline
function lastRow(band: i32): i32 {
  return min(argument(21), (band + 1) * argument(9));
}

/** A Gauss-Seidel sweep over a band of rows. */
export function smoothBand(band: i32): void {
  smoothRows(band * argument(9), lastRow(band), <bool>argument(10));
}

/** Sweeps over all rows, each forward and back; argument 23 is their number. */
export function relaxGrid(): void {
  const rows = argument(1);
  for (let sweep = argument(23); sweep > 0; sweep--) {
    smoothRows(0, rows, true);
    smoothRows(0, rows, false);
  }
}

function smoothRows(firstRow: i32, endRow: i32, forward: bool): void {
  const width = argument(0);
  const right = pointer(2);
  const down = pointer(3);
  const inverse = pointer(4);
  const solution = pointer(7);
  const rightSide = pointer(8);
  for (let k = firstRow; k < endRow; k++) {
    const row = forward ? k : endRow - 1 - (k - firstRow);
    const from = spanStart(row);
    const to = spanEnd(row);
    for (let m = from; m < to; m++) {
      const i = forward ? m : to - 1 - (m - from);
      if (weightAt(inverse, i) === 0) continue;
      const sum = f32x4.add(vector(rightSide, i), neighbours(solution, right, down, i, width));
      v128.store(solution + (<usize>i << 4), f32x4.mul(sum, scalar(inverse, i)));
    }
  }
}

@inline
function residual(i: i32, width: i32, right: usize, down: usize, inverse: usize, solution: usize, side: usize): v128 {
  return f32x4.add(
    f32x4.sub(vector(side, i), f32x4.div(vector(solution, i), scalar(inverse, i))),
    neighbours(solution, right, down, i, width),
  );
}

/** The right side of the next grid (a band of its rows): what is left over on the 2 x 2 pixels of each. Its solution is zeroed. */
export function restrictBand(band: i32): void {
  const width = argument(0);
  const rows = argument(1);
  const right = pointer(2);
  const down = pointer(3);
  const inverse = pointer(4);
  const solution = pointer(7);
  const rightSide = pointer(8);
  const nextWidth = argument(11);
  const nextSolution = pointer(12);
  const nextSide = pointer(13);
  const endRow = lastRow(band);
  for (let row = band * argument(9); row < endRow; row++) {
    const from = load<i32>(pointer(14) + (<usize>row << 2));
    const to = load<i32>(pointer(15) + (<usize>row << 2));
    for (let cell = from; cell < to; cell++) {
      const x = 2 * (cell - row * nextWidth - 1) + 1;
      const y = 2 * (row - 1) + 1;
      let sum = f32x4.splat(0);
      for (let v = y; v < min(y + 2, rows - 1); v++) {
        for (let i = v * width + x; i < v * width + min(x + 2, width - 1); i++) {
          if (weightAt(inverse, i) === 0) continue;
          sum = f32x4.add(sum, residual(i, width, right, down, inverse, solution, rightSide));
        }
      }
      v128.store(nextSide + (<usize>cell << 4), sum);
      v128.store(nextSolution + (<usize>cell << 4), f32x4.splat(0));
    }
  }
}

/** Adds the next grid's solution to a band of rows. */
export function prolongBand(band: i32): void {
  const width = argument(0);
  const inverse = pointer(4);
  const solution = pointer(7);
  const nextWidth = argument(11);
  const nextSolution = pointer(12);
  const endRow = lastRow(band);
  for (let row = band * argument(9); row < endRow; row++) {
    const to = spanEnd(row);
    const cells = (((row - 1) >> 1) + 1) * nextWidth + 1;
    for (let i = spanStart(row); i < to; i++) {
      if (weightAt(inverse, i) === 0) continue;
      const cell = cells + ((i - row * width - 1) >> 1);
      v128.store(solution + (<usize>i << 4), f32x4.add(vector(solution, i), vector(nextSolution, cell)));
    }
  }
}

@inline
function storePartial(band: i32, low: v128, high: v128): void {
  const at = pointer(20) + (<usize>band << 5);
  v128.store(at, low);
  v128.store(at, high, 16);
}

/** product = A direction, and the partial sums of direction x product. */
export function multiplyBand(band: i32): void {
  const width = argument(0);
  const right = pointer(2);
  const down = pointer(3);
  const inverse = pointer(4);
  const direction = pointer(18);
  const product = pointer(19);
  const endRow = lastRow(band);
  let low = f64x2.splat(0);
  let high = f64x2.splat(0);
  for (let row = band * argument(9); row < endRow; row++) {
    const to = spanEnd(row);
    for (let i = spanStart(row); i < to; i++) {
      if (weightAt(inverse, i) === 0) continue;
      const d = vector(direction, i);
      const q = f32x4.sub(f32x4.div(d, scalar(inverse, i)), neighbours(direction, right, down, i, width));
      v128.store(product + (<usize>i << 4), q);
      const dq = f32x4.mul(d, q);
      low = f64x2.add(low, f64x2.promote_low_f32x4(dq));
      high = f64x2.add(high, f64x2.promote_low_f32x4(i8x16.shuffle(dq, dq, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7)));
    }
  }
  storePartial(band, low, high);
}

/** u += factor x direction, residual -= factor x product, solution = 0, and the partial sums of residual squared. */
export function advanceBand(band: i32): void {
  const inverse = pointer(4);
  const solution = pointer(7);
  const u = pointer(16);
  const r = pointer(17);
  const direction = pointer(18);
  const product = pointer(19);
  const factor = v128.load(pointer(22));
  const endRow = lastRow(band);
  let low = f64x2.splat(0);
  let high = f64x2.splat(0);
  for (let row = band * argument(9); row < endRow; row++) {
    const to = spanEnd(row);
    for (let i = spanStart(row); i < to; i++) {
      if (weightAt(inverse, i) === 0) continue;
      v128.store(u + (<usize>i << 4), f32x4.add(vector(u, i), f32x4.mul(factor, vector(direction, i))));
      const left = f32x4.sub(vector(r, i), f32x4.mul(factor, vector(product, i)));
      v128.store(r + (<usize>i << 4), left);
      v128.store(solution + (<usize>i << 4), f32x4.splat(0));
      const square = f32x4.mul(left, left);
      low = f64x2.add(low, f64x2.promote_low_f32x4(square));
      high = f64x2.add(high, f64x2.promote_low_f32x4(i8x16.shuffle(square, square, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7)));
    }
  }
  storePartial(band, low, high);
}

/** The partial sums of residual x solution. */
export function agreementBand(band: i32): void {
  const inverse = pointer(4);
  const r = pointer(17);
  const solution = pointer(7);
  const endRow = lastRow(band);
  let low = f64x2.splat(0);
  let high = f64x2.splat(0);
  for (let row = band * argument(9); row < endRow; row++) {
    const to = spanEnd(row);
    for (let i = spanStart(row); i < to; i++) {
      if (weightAt(inverse, i) === 0) continue;
      const rz = f32x4.mul(vector(r, i), vector(solution, i));
      low = f64x2.add(low, f64x2.promote_low_f32x4(rz));
      high = f64x2.add(high, f64x2.promote_low_f32x4(i8x16.shuffle(rz, rz, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7)));
    }
  }
  storePartial(band, low, high);
}

/** direction = solution + factor x direction. */
export function redirectBand(band: i32): void {
  const inverse = pointer(4);
  const solution = pointer(7);
  const direction = pointer(18);
  const factor = v128.load(pointer(22));
  const endRow = lastRow(band);
  for (let row = band * argument(9); row < endRow; row++) {
    const to = spanEnd(row);
    for (let i = spanStart(row); i < to; i++) {
      if (weightAt(inverse, i) === 0) continue;
      v128.store(direction + (<usize>i << 4), f32x4.add(vector(solution, i), f32x4.mul(factor, vector(direction, i))));
    }
  }
}
