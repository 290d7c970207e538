import { createImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import { intersect, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { Task } from '../progress.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { lanczosWeights, PHASES, REACH } from './lanczosBand.ts';
import { backThrough, wholeShiftOf, type CarryBack, type Warp } from './warp.ts';

/** The scale is measured anew on blocks of this side. */
const BLOCK_PX = 128;
/** More samples a pixel in each direction are not taken. */
const MAX_SAMPLES = 8;
/** One sample serves for shrinking by so much more than its number; the kernel's own reach takes care of it. */
const TOLERATED_SHRINKING = 0.35;
/** Larger windows of the source are not laid out for the kernel. */
const MAX_WINDOW_PX = 4_000_000;

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
  const shift = wholeShiftOf(warps);
  if (shift) {
    const out = createImage(size.width, size.height);
    pasteImage(out, shift, source);
    return out;
  }
  return yield* resampleThrough(source, backThrough(warps), size, kernels);
}

/**
 * As `resampleImage`, by any way back from target to source points; what is carried to NaN comes out transparent.
 *
 * @param options.nodePx where the way back is smooth and costly, it is found so far apart only, and taken as linear in
 *   between
 * @param options.shrinking how many source px go to one target px, where their distance does not tell it
 */
export function* resampleThrough(
  source: RasterImage,
  back: CarryBack,
  size: Size,
  kernels: Kernels,
  { nodePx = 0, shrinking }: { nodePx?: number; shrinking?: number } = {},
): Task<RasterImage> {
  const out = createImage(size.width, size.height);
  const weights = lanczosWeights();
  const sample = createSampler(source, weights);
  const positions = new Float64Array(2 * (BLOCK_PX * MAX_SAMPLES) ** 2);
  for (let y = 0; y < size.height; y += BLOCK_PX) {
    for (let x = 0; x < size.width; x += BLOCK_PX) {
      const block = intersect({ x, y, width: BLOCK_PX, height: BLOCK_PX }, wholeOf(size));
      const samples = shrinking
        ? samplesOf(shrinking, shrinking)
        : samplesFor(back, x + block.width / 2, y + block.height / 2);
      const reach = locate(block, back, samples, source, positions, nodePx);
      const count = samples.along * samples.down;
      if (!reach) continue;
      const window = windowOf(source, reach);
      if (window) resampleOpaque(out, block, source, window, positions, count, weights, kernels);
      else resampleBlock(out, block, positions, count, sample);
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
  back: CarryBack,
  { along, down }: Samples,
  source: Size,
  positions: Float64Array,
  nodePx: number,
): Box | undefined {
  const end = 2 * block.width * block.height * along * down;
  if (nodePx > 0) {
    if (!carryBackSmoothly(block, back, { along, down }, source, positions, nodePx)) return undefined;
  } else carryBackExactly(block, back, { along, down }, positions);
  const [right, bottom] = [source.width + BEYOND_PX, source.height + BEYOND_PX];
  let [leftmost, topmost, rightmost, lowest] = [right, bottom, -BEYOND_PX, -BEYOND_PX];
  let touches = false;
  for (let k = 0; k < end; k += 2) {
    // What lies on a warp's horizon is not a number, and outside.
    const x = positions[k]! > -BEYOND_PX ? (positions[k]! < right ? positions[k]! : right) : -BEYOND_PX;
    const y = positions[k + 1]! > -BEYOND_PX ? (positions[k + 1]! < bottom ? positions[k + 1]! : bottom) : -BEYOND_PX;
    touches ||= x > -BEYOND_PX && x < right && y > -BEYOND_PX && y < bottom;
    positions[k] = x;
    positions[k + 1] = y;
    if (x < leftmost) leftmost = x;
    if (x > rightmost) rightmost = x;
    if (y < topmost) topmost = y;
    if (y > lowest) lowest = y;
  }
  return touches ? { left: leftmost, top: topmost, right: rightmost, bottom: lowest } : undefined;
}

function carryBackExactly(block: Rect, back: CarryBack, { along, down }: Samples, positions: Float64Array): void {
  let end = 0;
  for (let y = block.y; y < block.y + block.height; y++) {
    for (let x = block.x; x < block.x + block.width; x++) {
      for (let v = 0; v < down; v++) {
        for (let u = 0; u < along; u++) {
          positions[end++] = x + (u + 0.5) / along;
          positions[end++] = y + (v + 0.5) / down;
        }
      }
    }
  }
  back(positions, end / 2);
}

/** False where the whole block lies outside the source. */
function carryBackSmoothly(
  block: Rect,
  back: CarryBack,
  { along, down }: Samples,
  source: Size,
  positions: Float64Array,
  nodePx: number,
): boolean {
  const columns = Math.ceil(block.width / nodePx) + 1;
  const rows = Math.ceil(block.height / nodePx) + 1;
  const nodes = new Float64Array(2 * columns * rows);
  for (let row = 0, k = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      nodes[k++] = block.x + column * nodePx;
      nodes[k++] = block.y + row * nodePx;
    }
  }
  back(nodes, columns * rows);
  if (areAllOutside(nodes, source)) return false;
  let end = 0;
  for (let y = 0; y < block.height; y++) {
    for (let x = 0; x < block.width; x++) {
      for (let v = 0; v < down; v++) {
        const py = (y + (v + 0.5) / down) / nodePx;
        const row = Math.floor(py);
        const fy = py - row;
        for (let u = 0; u < along; u++) {
          const px = (x + (u + 0.5) / along) / nodePx;
          const column = Math.floor(px);
          const fx = px - column;
          const i = 2 * (row * columns + column);
          const j = i + 2 * columns;
          for (let c = 0; c < 2; c++) {
            const above = nodes[i + c]! + fx * (nodes[i + 2 + c]! - nodes[i + c]!);
            const below = nodes[j + c]! + fx * (nodes[j + 2 + c]! - nodes[j + c]!);
            positions[end++] = above + fy * (below - above);
          }
        }
      }
    }
  }
  return true;
}

/** Whether all points lie beyond one and the same side, or nowhere. */
function areAllOutside(points: Float64Array, { width, height }: Size): boolean {
  let [left, right, top, bottom] = [true, true, true, true];
  for (let k = 0; k < points.length; k += 2) {
    left &&= !(points[k]! > -BEYOND_PX);
    right &&= !(points[k]! < width + BEYOND_PX);
    top &&= !(points[k + 1]! > -BEYOND_PX);
    bottom &&= !(points[k + 1]! < height + BEYOND_PX);
  }
  return left || right || top || bottom;
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
  if (width * height > MAX_WINDOW_PX) return undefined;
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
  positions: Float64Array,
  count: number,
  weights: Float32Array,
  kernels: Kernels,
): void {
  kernels.reset();
  const { scratch } = kernels;
  const pixels = block.width * block.height;
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
  const inWindow = work.positions;
  const { x: left, y: top } = window;
  const end = inWindow.length;
  for (let k = 0; k < end; k += 2) {
    inWindow[k] = positions[k]! - left;
    inWindow[k + 1] = positions[k + 1]! - top;
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
function fadeAtEdge(pixels: Uint8Array, positions: Float64Array, count: number, source: Size): void {
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
function resampleBlock(out: RasterImage, block: Rect, positions: Float64Array, count: number, sample: Sampler): void {
  const sum = new Float64Array(4);
  const each = 1 / count;
  let k = 0;
  for (let y = block.y; y < block.y + block.height; y++) {
    for (let x = block.x; x < block.x + block.width; x++) {
      sum.fill(0);
      for (const end = k + 2 * count; k < end; k += 2) sample(positions[k]!, positions[k + 1]!, sum);
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

/** Samples a pixel, along rows and down columns. */
interface Samples {
  along: number;
  down: number;
}

/** How many samples a pixel a place needs: as many in each direction as source px lie between two target px. */
function samplesFor(back: CarryBack, x: number, y: number): Samples {
  const cross = Float64Array.of(x - 0.5, y, x + 0.5, y, x, y - 0.5, x, y + 0.5);
  back(cross, 4);
  const length = (k: number): number => Math.hypot(cross[k + 2]! - cross[k]!, cross[k + 3]! - cross[k + 1]!);
  return samplesOf(length(0), length(4));
}

function samplesOf(along: number, down: number): Samples {
  const enough = (px: number): number =>
    Number.isFinite(px) ? Math.max(1, Math.min(MAX_SAMPLES, Math.ceil(px - TOLERATED_SHRINKING))) : 1;
  return { along: enough(along), down: enough(down) };
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
