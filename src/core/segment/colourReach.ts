import { FingoError } from '../errors.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { createMask, type Mask } from '../mask/mask.ts';

/** What a reach looks for: the colour at a point (photo px), near-white, near-black, or where the picture has no data. */
export type ReachTarget = { x: number; y: number } | 'white' | 'black' | 'none';

export interface ReachOptions {
  /** Largest difference in any channel, in 8-bit levels, 0..255. */
  tolerance: number;
  /** Only the area connected (through sides) to the point; ignored for targets that are no point. */
  connected: boolean;
}

/** Beyond the tolerance coverage falls to 0 over so many levels, so that anti-aliased edges stay soft. */
const SOFT_LEVELS = 6;

/**
 * All pixels of a colour: 255 where no channel differs by more than `tolerance` levels (encoded sRGB) from the target,
 * less just beyond. `none` reaches transparent pixels (alpha at most `tolerance`). Throws `outside-picture` for a point
 * outside. O(pixels).
 */
export function reachOfColour(image: RasterImage, target: ReachTarget, options: ReachOptions): Mask {
  const { width, height, data } = image;
  const mask = createMask(width, height);
  const coverage = coverageOf(image, target, options.tolerance);
  if (typeof target === 'string' || !options.connected) {
    for (let i = 0; i < width * height; i++) mask.data[i] = coverage(data, 4 * i);
    return mask;
  }
  const start = Math.floor(target.y) * width + Math.floor(target.x);
  const stack = [start];
  mask.data[start] = 255;
  const visit = (i: number): void => {
    if (mask.data[i]) return;
    const value = coverage(data, 4 * i);
    if (value === 0) return;
    mask.data[i] = value;
    stack.push(i);
  };
  while (stack.length > 0) {
    const i = stack.pop()!;
    const x = i % width;
    if (x > 0) visit(i - 1);
    if (x + 1 < width) visit(i + 1);
    if (i >= width) visit(i - width);
    if (i + width < width * height) visit(i + width);
  }
  return mask;
}

function coverageOf(
  { width, height, data }: RasterImage,
  target: ReachTarget,
  tolerance: number,
): (data: Uint8ClampedArray, at: number) => number {
  const soft = (difference: number): number =>
    difference <= tolerance ? 255 : Math.max(0, Math.round(255 * (1 - (difference - tolerance) / SOFT_LEVELS)));
  if (target === 'none') return (pixels, at) => (pixels[at + 3]! <= tolerance ? 255 : 0);
  let colour = [255, 255, 255];
  if (target === 'black') colour = [0, 0, 0];
  if (typeof target !== 'string') {
    const [x, y] = [Math.floor(target.x), Math.floor(target.y)];
    if (!(x >= 0 && y >= 0 && x < width && y < height)) {
      throw new FingoError('outside-picture', 'The point lies outside the picture; touch a colour inside it.');
    }
    colour = Array.from(data.subarray(4 * (y * width + x), 4 * (y * width + x) + 3));
  }
  const [r, g, b] = colour as [number, number, number];
  return (pixels, at) =>
    soft(Math.max(Math.abs(pixels[at]! - r), Math.abs(pixels[at + 1]! - g), Math.abs(pixels[at + 2]! - b)));
}
