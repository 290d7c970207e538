import FlatQueue from 'flatqueue';
import type { RasterImage } from '../image/rasterImage.ts';

/** An edge as strong as this share of the window's costs least to follow. */
const STRONG_SHARE = 0.95;
/** A window whose strongest edges are fewer levels has none worth following. */
const MIN_STRENGTH = 12;
/** What a step costs along the strongest edge, and how much more where there is none or beside the edge's ridge. */
const ALONG_EDGE = 1;
const OFF_EDGE = 24;
const OFF_RIDGE = 6;
const START = 8;

/** Steps to the eight neighbours; the step back from `k` is `k ^ 1`. */
const STEPS = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
  [1, 1],
  [-1, -1],
  [1, -1],
  [-1, 1],
] as const;

/** From every pixel of a window the way back to one of them that runs along edges. */
export interface EdgeWays {
  width: number;
  height: number;
  /** Which of eight steps leads towards the start; 8 at the start. */
  back: Uint8Array;
  /** How strong an edge runs through each pixel, 0..255. */
  strength: Uint8Array;
}

/**
 * The cheapest ways from the pixel (x, y) to all others of a small picture, where following an edge is cheap: an outline
 * drawn with few points then clings to what it is drawn around. E. Mortensen, W. Barrett: Intelligent Scissors for Image
 * Composition, SIGGRAPH, 1995, with the gradient of encoded colours and its ridges as cost. Points outside count as the
 * nearest inside. O(n log n).
 */
export function findEdgeWays(image: RasterImage, x: number, y: number): EdgeWays {
  const { width, height } = image;
  const { cost, strength } = stepCosts(image);
  const back = new Uint8Array(width * height).fill(START);
  const reached = new Float32Array(width * height).fill(Infinity);
  const queue = new FlatQueue<number>();
  const start = clamped(y, height) * width + clamped(x, width);
  reached[start] = 0;
  queue.push(start, 0);
  while (queue.length > 0) {
    const total = queue.peekValue()!;
    const i = queue.pop()!;
    if (total > reached[i]!) continue;
    const u = i % width;
    const v = (i - u) / width;
    for (let k = 0; k < STEPS.length; k++) {
      const [du, dv] = STEPS[k]!;
      if (u + du < 0 || v + dv < 0 || u + du >= width || v + dv >= height) continue;
      const j = i + dv * width + du;
      const next = Math.fround(total + cost[j]! * (k < 4 ? 1 : Math.SQRT2));
      if (next >= reached[j]!) continue;
      reached[j] = next;
      back[j] = k ^ 1;
      queue.push(j, next);
    }
  }
  return { width, height, back, strength };
}

/** The pixels from the start of the ways to (x, y), both included: x, y, x, y, ... */
export function wayTo({ width, height, back }: EdgeWays, x: number, y: number): number[] {
  const points: number[] = [];
  let u = clamped(x, width);
  let v = clamped(y, height);
  for (;;) {
    points.push(v, u);
    const k = back[v * width + u]!;
    if (k === START) return points.reverse();
    u += STEPS[k]![0];
    v += STEPS[k]![1];
  }
}

/** The pixel with the strongest edge within `radius` px of (x, y); the nearest of equals. */
export function strongestNear(
  { width, height, strength }: EdgeWays,
  x: number,
  y: number,
  radius: number,
): { x: number; y: number } {
  let best = { x: clamped(x, width), y: clamped(y, height) };
  let most = -Infinity;
  const around = { ...best };
  for (let v = Math.max(0, around.y - radius); v <= Math.min(height - 1, around.y + radius); v++) {
    for (let u = Math.max(0, around.x - radius); u <= Math.min(width - 1, around.x + radius); u++) {
      const value = strength[v * width + u]! - 0.01 * Math.hypot(u - around.x, v - around.y);
      if (value <= most) continue;
      most = value;
      best = { x: u, y: v };
    }
  }
  return best;
}

const clamped = (value: number, extent: number): number => Math.max(0, Math.min(extent - 1, Math.floor(value)));

function stepCosts(image: RasterImage): { cost: Float32Array; strength: Uint8Array } {
  const { width, height } = image;
  const { across, down, magnitude } = gradient(image);
  const sorted = magnitude.slice().sort();
  const strong = Math.max(MIN_STRENGTH, sorted[Math.floor(STRONG_SHARE * (sorted.length - 1))]!);
  const cost = new Float32Array(width * height);
  const strength = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const share = Math.min(1, magnitude[i]! / strong);
      const ridge = isRidge(magnitude, width, height, x, y, across[i]!, down[i]!);
      cost[i] = ALONG_EDGE + OFF_EDGE * (1 - share) ** 2 + (ridge ? 0 : OFF_RIDGE);
      strength[i] = ridge ? Math.round(255 * share) : Math.round(127 * share);
    }
  }
  return { cost, strength };
}

/** Sobel gradients of the channel that changes most, levels a pixel. */
function gradient({ width, height, data }: RasterImage): Record<'across' | 'down' | 'magnitude', Float32Array> {
  const across = new Float32Array(width * height);
  const down = new Float32Array(width * height);
  const magnitude = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const above = Math.max(0, y - 1) * width;
    const here = y * width;
    const below = Math.min(height - 1, y + 1) * width;
    for (let x = 0; x < width; x++) {
      const left = Math.max(0, x - 1);
      const right = Math.min(width - 1, x + 1);
      for (let c = 0; c < 3; c++) {
        const at = (row: number, column: number): number => data[4 * (row + column) + c]!;
        const corners = at(below, right) - at(above, left);
        const others = at(above, right) - at(below, left);
        const gx = (2 * (at(here, right) - at(here, left)) + corners + others) / 8;
        const gy = (2 * (at(below, x) - at(above, x)) + corners - others) / 8;
        const size = Math.hypot(gx, gy);
        if (size <= magnitude[here + x]!) continue;
        magnitude[here + x] = size;
        across[here + x] = gx;
        down[here + x] = gy;
      }
    }
  }
  return { across, down, magnitude };
}

/** Whether the gradient is at least as large as on either side along its direction. */
function isRidge(
  magnitude: Float32Array,
  width: number,
  height: number,
  x: number,
  y: number,
  across: number,
  down: number,
): boolean {
  const size = Math.hypot(across, down);
  if (size === 0) return false;
  const du = Math.round(across / size);
  const dv = Math.round(down / size);
  const at = (u: number, v: number): number =>
    u < 0 || v < 0 || u >= width || v >= height ? 0 : magnitude[v * width + u]!;
  return magnitude[y * width + x]! >= at(x + du, y + dv) && magnitude[y * width + x]! >= at(x - du, y - dv);
}
