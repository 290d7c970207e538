/**
 * One plane blurred by `passes` box filters of the given radius in px (three come close to a Gaussian of standard
 * deviation radius * sqrt(passes / 3)); a fractional radius is honoured by weighting the outermost pixels. Borders
 * repeat the edge. O(pixels x passes), whatever the radius.
 */
export function blurPlane(
  plane: Float32Array<ArrayBuffer>,
  width: number,
  height: number,
  radiusPx: number,
  passes = 3,
): Float32Array<ArrayBuffer> {
  let current = plane;
  for (let pass = 0; pass < passes; pass++) {
    const rows = new Float32Array(plane.length);
    for (let y = 0; y < height; y++) boxLine(current, rows, y * width, 1, width, radiusPx);
    const columns = new Float32Array(plane.length);
    for (let x = 0; x < width; x++) boxLine(rows, columns, x, width, height, radiusPx);
    current = columns;
  }
  return current;
}

function boxLine(from: Float32Array, to: Float32Array, start: number, stride: number, n: number, radius: number) {
  const whole = Math.floor(radius);
  const rest = radius - whole;
  const scale = 1 / (2 * radius + 1);
  const at = (i: number): number => from[start + Math.max(0, Math.min(n - 1, i)) * stride]!;
  let sum = 0;
  for (let i = -whole; i <= whole; i++) sum += at(i);
  for (let i = 0; i < n; i++) {
    to[start + i * stride] = (sum + rest * (at(i - whole - 1) + at(i + whole + 1))) * scale;
    sum += at(i + whole + 1) - at(i - whole);
  }
}
