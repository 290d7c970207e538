import type { RasterImage } from '../src/core/image/rasterImage.ts';
import type { Rect } from '../src/core/image/rect.ts';
import type { Mask } from '../src/core/mask/mask.ts';
import { createTwinKernels } from '../src/core/kernels/twinKernels.ts';
import { solveGrid } from '../src/core/blend/gridLaplacian.ts';

/** The marked pixels in the mean colour of those along the rim: what doing nothing clever gives. */
export function flatFill(image: RasterImage, mark: Mask): RasterImage {
  const out = { ...image, data: image.data.slice() };
  const sum = [0, 0, 0];
  let count = 0;
  for (let i = 0; i < mark.data.length; i++) {
    const isRim = mark.data[i] === 0 && [1, -1, mark.width, -mark.width].some((step) => mark.data[i + step]);
    if (!isRim) continue;
    for (let c = 0; c < 3; c++) sum[c]! += image.data[4 * i + c]!;
    count++;
  }
  for (let i = 0; i < mark.data.length; i++) {
    if (mark.data[i]) for (let c = 0; c < 3; c++) out.data[4 * i + c] = sum[c]! / count;
  }
  return out;
}

/** The marked pixels as a smooth membrane stretched over the rim: right in tone, without any texture. */
export function membraneFill(image: RasterImage, mark: Mask): RasterImage {
  const { width, height } = mark;
  const n = width * height;
  const out = { ...image, data: image.data.slice() };
  const system = { width, height, right: new Float32Array(n), down: new Float32Array(n), extra: new Float32Array(n) };
  const rightSides = new Float32Array(4 * n);
  for (let i = 0; i < n; i++) {
    if (!mark.data[i]) continue;
    const x = i % width;
    const neighbours = [x > 0 ? i - 1 : -1, x + 1 < width ? i + 1 : -1, i - width, i + width < n ? i + width : -1];
    for (const j of neighbours) {
      if (j < 0) continue;
      if (mark.data[j]) {
        if (j === i + 1) system.right[i] = 1;
        if (j === i + width) system.down[i] = 1;
      } else {
        system.extra[i]! += 1;
        for (let c = 0; c < 3; c++) rightSides[4 * i + c]! += image.data[4 * j + c]!;
      }
    }
  }
  const values = solveGrid(system, rightSides, createTwinKernels(), 1e-4, 40);
  for (let i = 0; i < n; i++) {
    if (mark.data[i]) for (let c = 0; c < 3; c++) out.data[4 * i + c] = values[4 * i + c]!;
  }
  return out;
}

/** Everything outside `kept` as its mirror image over the nearest edge. */
export const mirroredBorder = (image: RasterImage, kept: Rect): RasterImage =>
  bordered(image, kept, (distance) => distance - 1);

/** Everything outside `kept` as its outermost strip, half as wide as the border, stretched over it. */
export const stretchedBorder = (image: RasterImage, kept: Rect): RasterImage =>
  bordered(image, kept, (distance, border) => Math.floor(0.5 * (border - distance)));

/** Copies from so many px inside the edge, as told for a distance outside it. */
function bordered(image: RasterImage, kept: Rect, inside: (distance: number, border: number) => number): RasterImage {
  const out = { ...image, data: image.data.slice() };
  const [right, bottom] = [kept.x + kept.width - 1, kept.y + kept.height - 1];
  const back = (value: number, low: number, high: number, length: number): number => {
    if (value > high) return high - Math.min(high - low, inside(value - high, length - 1 - high));
    return value < low ? low + Math.min(high - low, inside(low - value, low)) : value;
  };
  for (let y = 0; y < image.height; y++) {
    const fromY = back(y, kept.y, bottom, image.height);
    for (let x = 0; x < image.width; x++) {
      const from = 4 * (fromY * image.width + back(x, kept.x, right, image.width));
      out.data.set(image.data.subarray(from, from + 4), 4 * (y * image.width + x));
    }
  }
  return out;
}
