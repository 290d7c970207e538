import { FingoError } from '../errors.ts';
import { applyHomography, type Homography } from '../geometry/homography.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Mask } from '../mask/mask.ts';
import { addBicubicBytes } from './bicubicSample.ts';
import type { PullWay } from './pullWays.ts';

/** Px to each side of a joint that are compared. */
export const JOINT_PX = 6;
/** Of more pixels an even sample is compared. */
const MAX_COMPARED = 4000;

/** How far a mark reaches along a way. */
export interface Extent {
  /** The lowest and highest distance along the way that the mark covers. */
  rear: number;
  front: number;
}

/** How far a mark (128 and above) reaches along a way. Throws `nothing-marked`. */
export function extentAlong({ width, data }: Mask, way: PullWay): Extent {
  let rear = Infinity;
  let front = -Infinity;
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    const t = way.along((i % width) + 0.5, Math.floor(i / width) + 0.5);
    rear = Math.min(rear, t);
    front = Math.max(front, t);
  }
  if (front < rear) throw new FingoError('nothing-marked', 'Nothing is marked; draw around the end of the thing.');
  return { rear, front };
}

/** Marked pixels within a joint's reach of the line across the way just in front of the mark's rear end: the joint's. */
export function jointPixels({ width, data }: Mask, way: PullWay, { rear }: Extent): Int32Array {
  const found: number[] = [];
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    const t = way.along((i % width) + 0.5, Math.floor(i / width) + 0.5);
    if (t - rear <= 2 * JOINT_PX) found.push(i);
  }
  const every = Math.ceil(found.length / MAX_COMPARED);
  return Int32Array.from(found.filter((_, k) => k % every === 0));
}

/** Mean difference between pixels at a joint and what lies (dx, dy) on from it; infinite where that leaves the picture. */
export function shiftedMismatch(
  { width, height, data }: RasterImage,
  pixels: Int32Array,
  dx: number,
  dy: number,
): number {
  let sum = 0;
  for (const i of pixels) {
    const x = (i % width) + dx;
    const y = Math.floor(i / width) + dy;
    if (x < 0 || y < 0 || x >= width || y >= height) return Infinity;
    const j = y * width + x;
    for (let c = 0; c < 3; c++) sum += Math.abs(data[4 * i + c]! - data[4 * j + c]!);
  }
  return pixels.length > 0 ? sum / (3 * pixels.length) : Infinity;
}

/** The same for what lies where a map leads. */
export function mappedMismatch({ width, height, data }: RasterImage, pixels: Int32Array, map: Homography): number {
  const colour = new Float32Array(3);
  let sum = 0;
  for (const i of pixels) {
    const { x, y } = applyHomography(map, (i % width) + 0.5, Math.floor(i / width) + 0.5);
    if (!(x >= 0 && y >= 0 && x < width && y < height)) return Infinity;
    colour.fill(0);
    addBicubicBytes(data, width, height, x, y, 1, colour);
    for (let c = 0; c < 3; c++) sum += Math.abs(data[4 * i + c]! - colour[c]!);
  }
  return pixels.length > 0 ? sum / (3 * pixels.length) : Infinity;
}

/**
 * How far along the way the first repeat begins: a step in front of the rear end or farther on in the mark, where what it
 * shows meets the picture best. A joint in the middle of a board is not seen, one at its edge is.
 */
export function bestJoint(image: RasterImage, mark: Mask, { way, step }: { way: PullWay; step: number }): number {
  const { width, height, data } = image;
  const { rear, front } = extentAlong(mark, way);
  const first = rear + step;
  const count = Math.max(1, Math.floor(Math.min(front - JOINT_PX - first, step)));
  const sums = new Float64Array(count);
  const counts = new Float64Array(count);
  const back = way.carry(-step);
  for (let i = 0; i < mark.data.length; i++) {
    if (mark.data[i]! < 128) continue;
    const at = { x: (i % width) + 0.5, y: Math.floor(i / width) + 0.5 };
    const bin = Math.floor(way.along(at.x, at.y) - first);
    if (bin < 0 || bin >= count) continue;
    const from = applyHomography(back, at.x, at.y);
    const [u, v] = [Math.floor(from.x), Math.floor(from.y)];
    if (u < 0 || v < 0 || u >= width || v >= height) continue;
    for (let c = 0; c < 3; c++) sums[bin]! += Math.abs(data[4 * i + c]! - data[4 * (v * width + u) + c]!);
    counts[bin]!++;
  }
  let [best, least] = [0, Infinity];
  for (let bin = 0; bin < count; bin++) {
    // Both sides of a joint are seen.
    const [low, high] = [Math.max(0, bin - 1), Math.min(count - 1, bin + 1)];
    const around = (sums[low]! + sums[bin]! + sums[high]!) / (counts[low]! + counts[bin]! + counts[high]!);
    if (around < least) [best, least] = [bin, around];
  }
  return first + best;
}
