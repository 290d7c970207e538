/**
 * One plane blurred by `passes` box filters of the given radius in px (three come close to a Gaussian of standard
 * deviation radius * sqrt(passes / 3)); a fractional radius is honoured by weighting the outermost pixels. Borders
 * repeat the edge. O(pixels x passes), whatever the radius.
 */
export function blurPlane(
  plane: Float32Array,
  width: number,
  height: number,
  radiusPx: number,
  passes = 3,
): Float32Array<ArrayBuffer> {
  const rows = new Float32Array(plane.length);
  const out = new Float32Array(plane.length);
  for (let pass = 0; pass < passes; pass++) {
    blurRows(pass === 0 ? plane : out, rows, width, height, radiusPx);
    blurColumns(rows, out, width, height, radiusPx);
  }
  return out;
}

function blurRows(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const whole = Math.floor(radius);
  const rest = radius - whole;
  const scale = 1 / (2 * radius + 1);
  // Each row is copied between repeated edges, so that the running sum needs no bounds checks.
  const reach = whole + 1;
  const line = new Float32Array(width + 2 * reach);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    line.set(from.subarray(row, row + width), reach);
    line.fill(from[row]!, 0, reach);
    line.fill(from[row + width - 1]!, reach + width);
    let sum = 0;
    for (let i = 1; i <= 2 * whole + 1; i++) sum += line[i]!;
    for (let x = 0; x < width; x++) {
      const before = line[x]!;
      const after = line[x + 2 * whole + 2]!;
      to[row + x] = (sum + rest * (before + after)) * scale;
      sum += after - line[x + 1]!;
    }
  }
}

/** The same down the columns, a whole row at a time: one running sum per column keeps memory access in order. */
function blurColumns(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const whole = Math.floor(radius);
  const rest = radius - whole;
  const scale = 1 / (2 * radius + 1);
  const rowAt = (y: number): number => Math.max(0, Math.min(height - 1, y)) * width;
  const sums = new Float64Array(width);
  for (let v = -whole; v <= whole; v++) {
    const row = rowAt(v);
    for (let x = 0; x < width; x++) sums[x]! += from[row + x]!;
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const before = rowAt(y - whole - 1);
    const after = rowAt(y + whole + 1);
    const leaving = rowAt(y - whole);
    for (let x = 0; x < width; x++) {
      const next = from[after + x]!;
      to[row + x] = (sums[x]! + rest * (from[before + x]! + next)) * scale;
      sums[x]! += next - from[leaving + x]!;
    }
  }
}
