/** A plane projective map, row by row: x' = (h0 x + h1 y + h2) / (h6 x + h7 y + h8), y' likewise with h3 to h5. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

export interface Point {
  x: number;
  y: number;
}

export function applyHomography(h: Homography, x: number, y: number): Point {
  const w = h[6] * x + h[7] * y + h[8];
  return { x: (h[0] * x + h[1] * y + h[2]) / w, y: (h[3] * x + h[4] * y + h[5]) / w };
}

/** `a` after `b`. */
export function multiplyHomographies(a: Homography, b: Homography): Homography {
  const at = (row: number, column: number): number =>
    a[3 * row]! * b[column]! + a[3 * row + 1]! * b[3 + column]! + a[3 * row + 2]! * b[6 + column]!;
  return [at(0, 0), at(0, 1), at(0, 2), at(1, 0), at(1, 1), at(1, 2), at(2, 0), at(2, 1), at(2, 2)];
}

/** The inverse map (up to a factor), by the adjugate. A degenerate map gives entries that are not finite. */
export function invertHomography(h: Homography): Homography {
  const [a, b, c, d, e, f, g, i, j] = h;
  const adjugate = [
    e * j - f * i,
    c * i - b * j,
    b * f - c * e,
    f * g - d * j,
    a * j - c * g,
    c * d - a * f,
    d * i - e * g,
    b * g - a * i,
    a * e - b * d,
  ];
  const scale = 1 / (a * adjugate[0]! + b * adjugate[3]! + c * adjugate[6]!);
  return adjugate.map((value) => value * scale) as unknown as Homography;
}

/**
 * By how much the map enlarges areas at a point: the determinant of its Jacobian; negative where it mirrors.
 */
export function areaScaleAt(h: Homography, x: number, y: number): number {
  const w = h[6] * x + h[7] * y + h[8];
  const [a, b, c, d, e, f, g, i, j] = h;
  const determinant = a * (e * j - f * i) - b * (d * j - f * g) + c * (d * i - e * g);
  return determinant / (w * w * w);
}

/**
 * The map that takes the unit square's corners (0,0), (1,0), (1,1), (0,1) to four points in that order.
 * P. Heckbert: Fundamentals of Texture Mapping and Image Warping, 1989, section 2.2.3.
 */
export function squareToQuad([p0, p1, p2, p3]: readonly [Point, Point, Point, Point]): Homography {
  const sx = p0.x - p1.x + p2.x - p3.x;
  const sy = p0.y - p1.y + p2.y - p3.y;
  const dx1 = p1.x - p2.x;
  const dx2 = p3.x - p2.x;
  const dy1 = p1.y - p2.y;
  const dy2 = p3.y - p2.y;
  const determinant = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / determinant;
  const h = (dx1 * sy - sx * dy1) / determinant;
  return [
    p1.x - p0.x + g * p1.x,
    p3.x - p0.x + h * p3.x,
    p0.x,
    p1.y - p0.y + g * p1.y,
    p3.y - p0.y + h * p3.y,
    p0.y,
    g,
    h,
    1,
  ];
}

/** Whether four points, in order, make a convex quadrilateral that is not nearly flat. */
export function isConvexQuad(points: readonly Point[]): boolean {
  const turns = points.map((p, k) => {
    const q = points[(k + 1) % 4]!;
    const r = points[(k + 2) % 4]!;
    const cross = (q.x - p.x) * (r.y - q.y) - (q.y - p.y) * (r.x - q.x);
    return cross / (Math.hypot(q.x - p.x, q.y - p.y) * Math.hypot(r.x - q.x, r.y - q.y) || 1);
  });
  return turns.every((turn) => turn > 0.02) || turns.every((turn) => turn < -0.02);
}
