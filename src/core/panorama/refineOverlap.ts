import type { Size } from '../image/rect.ts';
import { carryPoint, type Camera } from './camera.ts';
import type { Overlap } from './overlaps.ts';

/** A frame's brightness (encoded luma), small enough to work with; `scale` px of it are one px of the frame. */
export interface GreyFrame extends Size {
  scale: number;
  data: Uint8Array;
}

/** A patch reaches so far from its middle, px of the grey frame. */
const REACH = 7;
const SIDE = 2 * REACH + 1;
const MAX_STEPS = 12;
/** A point that wants to go further than this from where it is expected is given up. */
const FARTHEST_PX = 5;
const SETTLED_PX = 0.01;
/** Correlation that two patches must reach. */
const MIN_LIKENESS = 0.85;
/** Brightness deviation of a patch below which there is nothing to hold on to. */
const MIN_DETAIL = 3;
/** Overlaps with more points are thinned. */
const MAX_POINTS = 900;

/**
 * Places points of frame `a` in frame `b` to a fraction of a px: around each, a patch of `a` is compared with `b` as
 * the cameras would show it, and moved until brightness agrees up to gain and offset.
 * B. Lucas, T. Kanade: An Iterative Image Registration Technique, IJCAI 1981; S. Baker, I. Matthews: Lucas-Kanade 20
 * Years On, IJCV 2004 (inverse compositional).
 *
 * @param points x, y, ... in px of the full frame `a`; those that `b` does not show are passed over
 */
export function refineOverlap(
  a: number,
  b: number,
  points: Float32Array | Float64Array,
  cameras: readonly Camera[],
  sizes: readonly Size[],
  greys: readonly GreyFrame[],
): Overlap {
  const [from, to]: [number[], number[]] = [[], []];
  const patch = createPatch();
  const point = [0, 0, 0];
  const stride = Math.max(1, Math.floor(points.length / 2 / MAX_POINTS));
  const carried = (px: number, py: number): [number, number] => {
    carryPoint(px, py, cameras[a]!, sizes[a]!, cameras[b]!, sizes[b]!, point);
    return [point[0]!, point[1]!];
  };
  let compared = 0;
  for (let k = 0; k < points.length; k += 2 * stride) {
    const [x, y] = [points[k]!, points[k + 1]!];
    const [bx, by] = carried(x, y);
    if (!isWellInside(x, y, greys[a]!) || !isWellInside(bx, by, greys[b]!)) continue;
    compared++;
    if (!takePatch(patch, greys[a]!, x, y)) continue;
    const found = settle(patch, x, y, greys[a]!.scale, greys[b]!, carried);
    if (!found) continue;
    from.push(x, y);
    to.push(bx + found[0], by + found[1]);
  }
  return { a, b, from: Float64Array.from(from), to: Float64Array.from(to), compared };
}

const MARGIN = REACH + FARTHEST_PX + 2;
const isWellInside = (x: number, y: number, { scale, width, height }: GreyFrame): boolean =>
  x * scale > MARGIN && y * scale > MARGIN && x * scale < width - MARGIN && y * scale < height - MARGIN;

interface Patch {
  values: Float64Array;
  gradientX: Float64Array;
  gradientY: Float64Array;
  deviation: number;
  xx: number;
  xy: number;
  yy: number;
}

const createPatch = (): Patch => ({
  values: new Float64Array(SIDE * SIDE),
  gradientX: new Float64Array(SIDE * SIDE),
  gradientY: new Float64Array(SIDE * SIDE),
  deviation: 0,
  xx: 0,
  xy: 0,
  yy: 0,
});

/** Reads the patch around a point, free of its mean; false where it has no structure in two directions. */
function takePatch(patch: Patch, grey: GreyFrame, x: number, y: number): boolean {
  const { values, gradientX, gradientY } = patch;
  let [mean, meanX, meanY] = [0, 0, 0];
  for (let v = -REACH, i = 0; v <= REACH; v++) {
    for (let u = -REACH; u <= REACH; u++, i++) {
      const [gx, gy] = [x * grey.scale + u, y * grey.scale + v];
      values[i] = sampleGrey(grey, gx, gy);
      gradientX[i] = (sampleGrey(grey, gx + 1, gy) - sampleGrey(grey, gx - 1, gy)) / 2;
      gradientY[i] = (sampleGrey(grey, gx, gy + 1) - sampleGrey(grey, gx, gy - 1)) / 2;
      mean += values[i]!;
      meanX += gradientX[i]!;
      meanY += gradientY[i]!;
    }
  }
  const each = 1 / values.length;
  let [square, xx, xy, yy] = [0, 0, 0, 0];
  for (let i = 0; i < values.length; i++) {
    values[i]! -= mean * each;
    // Without their mean, a ramp in brightness (another exposure) does not pull.
    gradientX[i]! -= meanX * each;
    gradientY[i]! -= meanY * each;
    square += values[i]! ** 2;
    xx += gradientX[i]! ** 2;
    xy += gradientX[i]! * gradientY[i]!;
    yy += gradientY[i]! ** 2;
  }
  const deviation = Math.sqrt(square * each);
  Object.assign(patch, { deviation, xx, xy, yy });
  // The weaker direction must hold too: the smaller eigenvalue of the structure tensor.
  const smaller = (xx + yy) / 2 - Math.hypot((xx - yy) / 2, xy);
  return deviation > MIN_DETAIL && smaller > 0.02 * (xx + yy) && smaller > values.length;
}

/** How far the patch lies from where it was expected in the other frame, px of that frame. */
function settle(
  patch: Patch,
  x: number,
  y: number,
  scale: number,
  grey: GreyFrame,
  carried: (x: number, y: number) => [number, number],
): [number, number] | undefined {
  const { values, gradientX, gradientY, deviation, xx, xy, yy } = patch;
  const [centre, right, below] = [carried(x, y), carried(x + 1 / scale, y), carried(x, y + 1 / scale)];
  // Over one patch the map is as good as affine.
  const s = grey.scale;
  const [ax, ay] = [(right[0] - centre[0]) * s, (right[1] - centre[1]) * s];
  const [bx, by] = [(below[0] - centre[0]) * s, (below[1] - centre[1]) * s];
  const determinant = xx * yy - xy * xy;
  const seen = new Float64Array(values.length);
  let [dx, dy] = [0, 0];
  for (let step = 0; step < MAX_STEPS; step++) {
    let mean = 0;
    for (let v = -REACH, i = 0; v <= REACH; v++) {
      for (let u = -REACH; u <= REACH; u++, i++) {
        const [pu, pv] = [u + dx, v + dy];
        seen[i] = sampleGrey(grey, centre[0] * s + pu * ax + pv * bx, centre[1] * s + pu * ay + pv * by);
        mean += seen[i]!;
      }
    }
    mean /= seen.length;
    let [square, product] = [0, 0];
    for (let i = 0; i < seen.length; i++) {
      seen[i]! -= mean;
      square += seen[i]! ** 2;
      product += seen[i]! * values[i]!;
    }
    if (square === 0) return undefined;
    const gain = product / square;
    let [ex, ey] = [0, 0];
    for (let i = 0; i < seen.length; i++) {
      const error = gain * seen[i]! - values[i]!;
      ex += error * gradientX[i]!;
      ey += error * gradientY[i]!;
    }
    const sx = (yy * ex - xy * ey) / determinant;
    const sy = (xx * ey - xy * ex) / determinant;
    dx -= sx;
    dy -= sy;
    if (!(Math.hypot(dx, dy) < FARTHEST_PX)) return undefined;
    if (Math.hypot(sx, sy) < SETTLED_PX) {
      const likeness = product / Math.sqrt(square * values.length) / deviation;
      if (likeness < MIN_LIKENESS) return undefined;
      return [(dx * ax + dy * bx) / s, (dx * ay + dy * by) / s];
    }
  }
  return undefined;
}

/** Catmull-Rom between pixel centres; the caller stays inside. */
function sampleGrey({ width, height, data }: GreyFrame, x: number, y: number): number {
  const x0 = Math.max(1, Math.min(width - 3, Math.floor(x - 0.5)));
  const y0 = Math.max(1, Math.min(height - 3, Math.floor(y - 0.5)));
  const u = x - 0.5 - x0;
  const i = y0 * width + x0;
  return cubic(
    cubicAlong(data, i - width, u),
    cubicAlong(data, i, u),
    cubicAlong(data, i + width, u),
    cubicAlong(data, i + 2 * width, u),
    y - 0.5 - y0,
  );
}

const cubicAlong = (data: Uint8Array, i: number, t: number): number =>
  cubic(data[i - 1]!, data[i]!, data[i + 1]!, data[i + 2]!, t);

const cubic = (a: number, b: number, c: number, d: number, t: number): number =>
  b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
