import { resampleThrough } from '../geometry/resampleImage.ts';
import type { CarryBack } from '../geometry/warp.ts';
import { createImage, cropImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import { intersect, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Task } from '../progress.ts';
import { directionOnSphere } from './sphereView.ts';

/** The target is made in squares of this side; each reads its own part of the sphere. */
const SQUARE_PX = 256;
/** How far the resampling kernel reaches, and a little more. */
const MARGIN_PX = 5;
/** On a square's edges the way back is followed this often, to know what part of the sphere it reads. */
const PROBES = 16;
/** Away from the poles the way back bends slowly: it is followed so far apart. */
const NODE_PX = 4;
/** Where longitude turns by more than this share of a whole turn between two probes, a pole is near. */
const POLE_SHARE = 1 / 24;

/**
 * A picture of what is on a sphere (see sphereView.ts), each target px carried back to px of the sphere, in one resampling
 * with `resampleThrough`'s kernel. Left and right edge are neighbours; beyond a pole the sphere goes on on its other side.
 * What is carried to NaN comes out transparent. Needs the target and little more.
 */
export function* lookAround(sphere: SpherePixels, back: CarryBack, size: Size, kernels: Kernels): Task<RasterImage> {
  const out = createImage(size.width, size.height);
  for (let y = 0; y < size.height; y += SQUARE_PX) {
    for (let x = 0; x < size.width; x += SQUARE_PX) {
      const square = intersect({ x, y, width: SQUARE_PX, height: SQUARE_PX }, wholeOf(size));
      const reads = readBy(back, square, sphere);
      if (!reads) continue;
      const { window, middle, nodePx } = reads;
      const shrinking = shrinkingAt(back, square, sphere);
      const { width } = sphere;
      const local: CarryBack = (points, count) => {
        for (let k = 0; k < 2 * count; k += 2) {
          points[k] = points[k]! + square.x;
          points[k + 1] = points[k + 1]! + square.y;
        }
        back(points, count);
        for (let k = 0; k < 2 * count; k += 2) {
          points[k] = points[k]! - width * Math.round((points[k]! - middle) / width) - window.x;
          points[k + 1] = points[k + 1]! - window.y;
        }
      };
      const part = cropSphere(sphere, window);
      pasteImage(out, square, yield* resampleThrough(part, local, square, kernels, { nodePx, shrinking }));
    }
    yield { stage: 'Looking around', share: Math.min(1, (y + SQUARE_PX) / size.height) };
  }
  return out;
}

/** How many px of the sphere's equator span the angle of one px in the middle of a square of the target. */
function shrinkingAt(back: CarryBack, { x, y, width, height }: Rect, sphere: Size): number {
  const [u, v] = [x + width / 2, y + height / 2];
  const points = Float64Array.of(u - 0.5, v, u + 0.5, v, u, v - 0.5, u, v + 0.5);
  back(points, 4);
  const angle = (k: number): number => {
    const [a, b] = [k, k + 2].map((i) => directionOnSphere(points[i]!, points[i + 1]!, sphere)) as [Ray, Ray];
    return Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
  };
  return (Math.max(angle(0), angle(4)) * sphere.width) / (2 * Math.PI);
}

type Ray = ReturnType<typeof directionOnSphere>;

/** The px of a sphere, cut out where they are needed. */
export interface SpherePixels extends Size {
  /** The px of a rectangle inside the picture. */
  crop(rect: Rect): RasterImage;
}

export const pixelsOf = (image: RasterImage): SpherePixels => ({
  width: image.width,
  height: image.height,
  crop: (rect) => cropImage(image, rect),
});

/** A rectangle of the sphere that may run past its left and right edge, and over its poles by up to its height. */
export function cropSphere(sphere: SpherePixels, { x, y, width, height }: Rect): RasterImage {
  const out = createImage(width, height);
  const above = Math.min(height, Math.max(0, -y));
  const below = Math.min(height, Math.max(0, y + height - sphere.height));
  const half = sphere.width >> 1;
  const paste = (row: number, part: RasterImage): void => pasteImage(out, { x: 0, y: row }, part);
  if (above > 0) paste(0, upsideDown(cropRound(sphere, { x: x + half, y: -y - above, width, height: above })));
  const inside = { x, y: y + above, width, height: height - above - below };
  if (inside.height > 0) paste(above, cropRound(sphere, inside));
  if (below > 0) {
    const from = 2 * sphere.height - y - height;
    paste(height - below, upsideDown(cropRound(sphere, { x: x + half, y: from, width, height: below })));
  }
  return out;
}

/** Rows of the sphere, going round past its left and right edge. */
function cropRound(sphere: SpherePixels, { x, y, width, height }: Rect): RasterImage {
  const out = createImage(width, height);
  let from = ((x % sphere.width) + sphere.width) % sphere.width;
  for (let done = 0; done < width; from = 0) {
    const run = Math.min(width - done, sphere.width - from);
    pasteImage(out, { x: done, y: 0 }, sphere.crop({ x: from, y, width: run, height }));
    done += run;
  }
  return out;
}

function upsideDown(image: RasterImage): RasterImage {
  const stride = 4 * image.width;
  const out = createImage(image.width, image.height);
  for (let row = 0; row < image.height; row++) {
    const from = (image.height - 1 - row) * stride;
    out.data.set(image.data.subarray(from, from + stride), row * stride);
  }
  return out;
}

/** What a square of the target reads of the sphere. */
interface Reads {
  window: Rect;
  /** The column that positions are counted from, half a turn to either side. */
  middle: number;
  nodePx: number;
}

function readBy(back: CarryBack, square: Rect, sphere: Size): Reads | undefined {
  const points = new Float64Array(2 * (PROBES + 1) ** 2);
  let k = 0;
  for (let row = 0; row <= PROBES; row++) {
    for (let column = 0; column <= PROBES; column++) {
      points[k++] = square.x + (column / PROBES) * square.width;
      points[k++] = square.y + (row / PROBES) * square.height;
    }
  }
  back(points, points.length / 2);
  const { width } = sphere;
  let middle = NaN;
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  let widestStep = 0;
  const columns = new Float64Array(points.length / 2).fill(NaN);
  for (let k = 0; k < columns.length; k++) {
    const [u, v] = [points[2 * k]!, points[2 * k + 1]!];
    if (!Number.isFinite(u)) continue;
    if (Number.isNaN(middle)) middle = u;
    const x = u - width * Math.round((u - middle) / width);
    columns[k] = x;
    const beside = k % (PROBES + 1) > 0 ? columns[k - 1]! : NaN;
    for (const other of [beside, columns[k - PROBES - 1] ?? NaN]) {
      if (!Number.isNaN(other)) widestStep = Math.max(widestStep, Math.abs(x - other));
    }
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, v);
    bottom = Math.max(bottom, v);
  }
  if (Number.isNaN(middle)) return undefined;
  // Between the probes the way bends a little; a square with a pole in it sees all longitudes.
  const bend = (bottom - top) / PROBES + MARGIN_PX;
  const seesPole = widestStep > POLE_SHARE * width || top < bend || bottom > sphere.height - bend;
  const reach = (right - left) / PROBES + MARGIN_PX;
  const x = Math.floor(seesPole ? middle - width / 2 - MARGIN_PX : left - reach);
  const y = Math.floor(Math.max(-MARGIN_PX, top - bend));
  const end = Math.ceil(seesPole ? middle + width / 2 + MARGIN_PX : right + reach);
  const lowest = Math.ceil(Math.min(sphere.height + MARGIN_PX, bottom + bend));
  return { window: { x, y, width: end - x, height: lowest - y }, middle, nodePx: seesPole ? 0 : NODE_PX };
}
