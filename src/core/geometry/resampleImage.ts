import { createImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import { intersect, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { Task } from '../progress.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { lanczosWeights, PHASES, REACH } from './lanczosBand.ts';
import type { Point } from './homography.ts';
import { sourceFinder, wholeShiftOf, type FindSource, type Warp } from './warp.ts';

/** The scale is measured anew on blocks of this side. */
const BLOCK_PX = 128;
/** More samples a pixel in each direction are not taken. */
const MOST_SAMPLES = 8;
/** Larger windows of the source are not laid out for the kernel. */
const MOST_WINDOW_PX = 4_000_000;

/**
 * A picture carried through a chain of warps in one resampling, onto a target of the given size: a Lanczos kernel of
 * three lobes on premultiplied, encoded values, its weights made to sum to 1; where the picture shrinks, the average of
 * several samples a pixel. What the picture does not cover comes out transparent; a pixel that it covers in part
 * has that alpha. A shift by whole pixels copies. Time is proportional to the target's pixels.
 * K. Turkowski: Filters for Common Resampling Tasks, Graphics Gems I, 1990.
 */
export function* resampleImage(
  source: RasterImage,
  warps: readonly Warp[],
  size: Size,
  kernels: Kernels,
): Task<RasterImage> {
  const out = createImage(size.width, size.height);
  const shift = wholeShiftOf(warps);
  if (shift) {
    pasteImage(out, shift, source);
    return out;
  }
  const find = sourceFinder(warps);
  const weights = lanczosWeights();
  const sample = createSampler(source, weights);
  const positions = new Float32Array(2 * (BLOCK_PX * MOST_SAMPLES) ** 2);
  for (let y = 0; y < size.height; y += BLOCK_PX) {
    for (let x = 0; x < size.width; x += BLOCK_PX) {
      const block = intersect({ x, y, width: BLOCK_PX, height: BLOCK_PX }, wholeOf(size));
      const samples = samplesFor(find, x + block.width / 2, y + block.height / 2);
      const reach = locate(block, find, samples, source, positions);
      if (!reach) continue;
      const window = windowOf(source, reach);
      if (window) resampleOpaque(out, block, source, window, positions, samples, weights, kernels);
      else resampleBlock(out, block, positions, samples, sample);
    }
    yield { stage: 'Carrying the picture over', share: y / size.height };
  }
  return out;
}

/** Beyond the source's edge by more than this, there is nothing of it. */
const BEYOND_PX = 1;

/**
 * Where a block's samples lie in the source, pixel after pixel, those beyond it drawn in to just outside its edge.
 * Returns the box that they lie in; undefined where all are outside.
 */
function locate(
  block: Rect,
  find: FindSource,
  samples: number,
  source: Size,
  positions: Float32Array,
): Box | undefined {
  const at: Point = { x: 0, y: 0 };
  const [right, bottom] = [source.width + BEYOND_PX, source.height + BEYOND_PX];
  const box = { left: right, top: bottom, right: -BEYOND_PX, bottom: -BEYOND_PX };
  let touches = false;
  let k = 0;
  for (let y = block.y; y < block.y + block.height; y++) {
    for (let x = block.x; x < block.x + block.width; x++) {
      for (let v = 0; v < samples; v++) {
        for (let u = 0; u < samples; u++) {
          find(x + (u + 0.5) / samples, y + (v + 0.5) / samples, at);
          // What lies on a warp's horizon is not a number, and outside.
          const px = at.x > -BEYOND_PX ? (at.x < right ? at.x : right) : -BEYOND_PX;
          const py = at.y > -BEYOND_PX ? (at.y < bottom ? at.y : bottom) : -BEYOND_PX;
          touches ||= px > -BEYOND_PX && px < right && py > -BEYOND_PX && py < bottom;
          positions[k++] = px;
          positions[k++] = py;
          if (px < box.left) box.left = px;
          if (px > box.right) box.right = px;
          if (py < box.top) box.top = py;
          if (py > box.bottom) box.bottom = py;
        }
      }
    }
  }
  return touches ? box : undefined;
}

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The px that the samples of a box read, a little beyond the source's edge too, if all that exist are opaque. */
function windowOf(source: RasterImage, { left, top, right, bottom }: Box): Rect | undefined {
  const x = Math.floor(left - 0.5) - REACH + 1;
  const y = Math.floor(top - 0.5) - REACH + 1;
  // One px more: positions are rounded to single precision.
  const width = Math.floor(right - 0.5) + REACH + 2 - x;
  const height = Math.floor(bottom - 0.5) + REACH + 2 - y;
  if (width * height > MOST_WINDOW_PX) return undefined;
  const inside = intersect({ x, y, width, height }, wholeOf(source));
  for (let row = inside.y; row < inside.y + inside.height; row++) {
    const start = 4 * (row * source.width + inside.x) + 3;
    for (let i = start; i < start + 4 * inside.width; i += 4) if (source.data[i] !== 255) return undefined;
  }
  return { x, y, width, height };
}

function resampleOpaque(
  out: RasterImage,
  block: Rect,
  source: RasterImage,
  window: Rect,
  positions: Float32Array,
  samples: number,
  weights: Float32Array,
  kernels: Kernels,
): void {
  kernels.reset();
  const { scratch } = kernels;
  const pixels = block.width * block.height;
  const count = samples * samples;
  const work = {
    window: scratch.bytes(4 * window.width * window.height),
    windowWidth: window.width,
    positions: scratch.floats(2 * pixels * count),
    samplesPerPixel: count,
    pixels,
    weights: scratch.floats(weights.length),
    out: scratch.bytes(4 * pixels),
  };
  copyWindow(source, window, work.window);
  for (let k = 0; k < work.positions.length; k += 2) {
    work.positions[k] = positions[k]! - window.x;
    work.positions[k + 1] = positions[k + 1]! - window.y;
  }
  work.weights.set(weights);
  kernels.resample(work);
  const isInside =
    window.x >= 0 &&
    window.y >= 0 &&
    window.x + window.width <= source.width &&
    window.y + window.height <= source.height;
  if (!isInside) fadeAtEdge(work.out, positions, count, source);
  for (let row = 0; row < block.height; row++) {
    const pixelsOfRow = work.out.subarray(4 * row * block.width, 4 * (row + 1) * block.width);
    out.data.set(pixelsOfRow, 4 * ((block.y + row) * out.width + block.x));
  }
}

/** Copies a window of the source; beyond its edge the outermost pixels go on. */
function copyWindow(source: RasterImage, window: Rect, out: Uint8Array): void {
  const inside = intersect(window, wholeOf(source));
  const from = new Uint32Array(source.data.buffer, source.data.byteOffset, source.width * source.height);
  const to = new Uint32Array(out.buffer, out.byteOffset, window.width * window.height);
  for (let row = 0; row < window.height; row++) {
    const start = clamp(window.y + row, source.height) * source.width;
    const at = row * window.width;
    const left = inside.x - window.x;
    to.set(from.subarray(start + inside.x, start + inside.x + inside.width), at + left);
    to.fill(from[start + inside.x]!, at, at + left);
    to.fill(from[start + inside.x + inside.width - 1]!, at + left + inside.width, at + window.width);
  }
}

/** Gives pixels the share of them that the source covers as alpha. */
function fadeAtEdge(pixels: Uint8Array, positions: Float32Array, count: number, source: Size): void {
  for (let pixel = 0, k = 0; 4 * pixel < pixels.length; pixel++) {
    let coverage = 0;
    for (const end = k + 2 * count; k < end; k += 2) coverage += coverageAt(positions[k]!, positions[k + 1]!, source);
    const alpha = Math.round((255 * coverage) / count);
    if (alpha === 0) pixels.fill(0, 4 * pixel, 4 * pixel + 4);
    else pixels[4 * pixel + 3] = alpha;
  }
}

const coverageAt = (x: number, y: number, { width, height }: Size): number =>
  edgeCoverage(x, width) * edgeCoverage(y, height);

/** A block where the source is transparent somewhere. */
function resampleBlock(out: RasterImage, block: Rect, positions: Float32Array, samples: number, sample: Sampler): void {
  const sum = new Float64Array(4);
  const each = 1 / (samples * samples);
  let k = 0;
  for (let y = block.y; y < block.y + block.height; y++) {
    for (let x = block.x; x < block.x + block.width; x++) {
      sum.fill(0);
      for (const end = k + 2 * samples * samples; k < end; k += 2) sample(positions[k]!, positions[k + 1]!, sum);
      const alpha = sum[3]! * each;
      if (alpha < 1 / 510) continue;
      const i = 4 * (y * out.width + x);
      const scale = each / alpha;
      out.data[i] = sum[0]! * scale;
      out.data[i + 1] = sum[1]! * scale;
      out.data[i + 2] = sum[2]! * scale;
      out.data[i + 3] = 255 * alpha;
    }
  }
}

/** How many samples a pixel and direction a place needs: as many as source px lie between two target px. */
function samplesFor(find: FindSource, x: number, y: number): number {
  const step = (dx: number, dy: number): number => {
    const [a, b]: [Point, Point] = [
      { x: 0, y: 0 },
      { x: 0, y: 0 },
    ];
    find(x - dx / 2, y - dy / 2, a);
    find(x + dx / 2, y + dy / 2, b);
    return Math.hypot(b.x - a.x, b.y - a.y);
  };
  const [along, down] = [step(1, 0), step(0, 1)];
  const most = Math.max(along, down);
  return Number.isFinite(most) ? Math.max(1, Math.min(MOST_SAMPLES, Math.ceil(most - 0.1))) : 1;
}

/** Adds red, green, blue (times alpha, 0-255) and alpha (0-1) at a source point. */
type Sampler = (x: number, y: number, sum: Float64Array) => void;

function createSampler({ width, height, data }: RasterImage, weights: Float32Array): Sampler {
  const taps = 2 * REACH;
  return (x, y, sum) => {
    // Where the kernel's middle lies outside, there is no picture; a px at the edge is covered in part.
    const coverage = coverageAt(x, y, { width, height });
    if (!(coverage > 0)) return;
    const x0 = Math.floor(x - 0.5);
    const y0 = Math.floor(y - 0.5);
    const wx = Math.round((x - 0.5 - x0) * PHASES) * taps;
    const wy = Math.round((y - 0.5 - y0) * PHASES) * taps;
    let [r, g, b, a] = [0, 0, 0, 0];
    const inside = x0 >= REACH - 1 && y0 >= REACH - 1 && x0 + REACH < width && y0 + REACH < height;
    for (let v = 0; v < taps; v++) {
      const row = clamp(y0 + v - REACH + 1, height) * width;
      const down = weights[wy + v]!;
      for (let u = 0; u < taps; u++) {
        const column = x0 + u - REACH + 1;
        const i = 4 * (row + (inside ? column : clamp(column, width)));
        const alpha = data[i + 3]!;
        const w = alpha === 255 ? down * weights[wx + u]! : (down * weights[wx + u]! * alpha) / 255;
        r += w * data[i]!;
        g += w * data[i + 1]!;
        b += w * data[i + 2]!;
        a += w;
      }
    }
    if (a <= 0) return;
    const scale = (coverage * Math.min(1, a)) / a;
    sum[0]! += scale * r;
    sum[1]! += scale * g;
    sum[2]! += scale * b;
    sum[3]! += coverage * Math.min(1, a);
  };
}

const clamp = (at: number, length: number): number => (at < 0 ? 0 : at >= length ? length - 1 : at);

/** How far a px with its middle at `at` counts as inside 0..length: wholly from a quarter of a px on. */
const edgeCoverage = (at: number, length: number): number => Math.max(0, Math.min(1, at + 0.75, length - at + 0.75));
