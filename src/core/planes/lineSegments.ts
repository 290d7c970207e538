import { blurPlane } from '../image/boxBlur.ts';
import type { Hole } from '../mask/byteMasks.ts';

/** A straight piece of an edge, in px of the plane it was found in. */
export interface Segment {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
  length: number;
}

/** Edges weaker than this, in levels a px, are not looked at. */
const WEAKEST_GRADIENT = 2.5;
/** Neighbours join a segment while their gradient points within this of the segment's. */
const ANGLE_TOLERANCE = Math.PI / 8;
const SHORTEST_PX = 8;
/** How far, root mean square, a segment's pixels may lie off its line. */
const WIDEST_PX = 1.4;
const BLUR_PX = 0.7;
/** A pixel's strength, no larger than 1024 levels (these are the float's bits), and its index fit into one number. */
const STRONGEST_BITS = 0x44800000;
const MAX_PIXELS = 2 ** 26;

/**
 * The straight edges of a plane of luma (8-bit levels, `width` x `height` up to 67 million), longest first, at most `most`.
 * Pixels near the hole (non-zero) are left out. Regions of one gradient direction are grown from the strongest edges and
 * fitted by their principal axis, weighted by gradient: ends and angle are good to a fraction of a pixel.
 * R. Grompone von Gioi et al.: LSD, PAMI, 2010 (region growing; here without its validation step).
 */
export function findLineSegments(
  luma: Float32Array<ArrayBuffer>,
  hole: Hole,
  width: number,
  height: number,
  most: number,
): Segment[] {
  const { strength, angle } = gradients(blurPlane(luma, width, height, BLUR_PX, 2), hole, width, height);
  const used = new Uint8Array(width * height);
  const segments: Segment[] = [];
  const region: number[] = [];
  const around = [-width - 1, -width, -width + 1, -1, 1, width - 1, width, width + 1];
  for (const seed of strongestFirst(strength)) {
    if (used[seed]) continue;
    growRegion(seed, strength, angle, used, around, region);
    if (region.length < SHORTEST_PX) continue;
    const segment = fitSegment(region, strength, width);
    if (segment) segments.push(segment);
  }
  return segments.sort((a, b) => b.length - a.length).slice(0, most);
}

function gradients(
  luma: Float32Array,
  hole: Hole,
  width: number,
  height: number,
): { strength: Float32Array<ArrayBuffer>; angle: Float32Array } {
  const strength = new Float32Array(width * height);
  const angle = new Float32Array(width * height);
  const reach = 3;
  const nearHole = (x: number, y: number): boolean => {
    for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v += reach) {
      for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u += reach) {
        if (hole[v * width + u]) return true;
      }
    }
    return false;
  };
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const dx = (luma[i + 1]! - luma[i - 1]!) / 2;
      const dy = (luma[i + width]! - luma[i - width]!) / 2;
      const magnitude = Math.sqrt(dx * dx + dy * dy);
      if (magnitude < WEAKEST_GRADIENT || nearHole(x, y)) continue;
      strength[i] = magnitude;
      angle[i] = Math.atan2(dy, dx);
    }
  }
  return { strength, angle };
}

/** Indices of the edges; of equally strong ones the first comes first. */
function strongestFirst(strength: Float32Array<ArrayBuffer>): Float64Array {
  // The bits of positive floats are in their order: with the index below them, plain numbers sort.
  const bits = new Uint32Array(strength.buffer, strength.byteOffset, strength.length);
  let count = 0;
  for (let i = 0; i < bits.length; i++) if (bits[i]) count++;
  const edges = new Float64Array(count);
  count = 0;
  for (let i = 0; i < bits.length; i++) if (bits[i]) edges[count++] = (STRONGEST_BITS - bits[i]!) * MAX_PIXELS + i;
  return edges.sort().map((key) => key % MAX_PIXELS);
}

/** Collects into `region` what is connected to the seed (by steps `around` it) and points the same way; marks it used. */
function growRegion(
  seed: number,
  strength: Float32Array,
  angle: Float32Array,
  used: Uint8Array,
  around: readonly number[],
  region: number[],
): void {
  region.length = 0;
  region.push(seed);
  used[seed] = 1;
  let sumX = Math.cos(angle[seed]!);
  let sumY = Math.sin(angle[seed]!);
  for (let k = 0; k < region.length; k++) {
    const mean = Math.atan2(sumY, sumX);
    const pixel = region[k]!;
    for (let n = 0; n < around.length; n++) {
      const next = pixel + around[n]!;
      if (!(strength[next]! > 0) || used[next]) continue;
      let turn = Math.abs(angle[next]! - mean);
      if (turn > Math.PI) turn = 2 * Math.PI - turn;
      if (turn > ANGLE_TOLERANCE) continue;
      used[next] = 1;
      region.push(next);
      sumX += Math.cos(angle[next]!);
      sumY += Math.sin(angle[next]!);
    }
  }
}

function fitSegment(region: readonly number[], strength: Float32Array, width: number): Segment | undefined {
  let total = 0;
  let cx = 0;
  let cy = 0;
  for (const i of region) {
    const w = strength[i]!;
    total += w;
    cx += w * ((i % width) + 0.5);
    cy += w * (Math.floor(i / width) + 0.5);
  }
  cx /= total;
  cy /= total;
  let xx = 0;
  let xy = 0;
  let yy = 0;
  for (const i of region) {
    const dx = (i % width) + 0.5 - cx;
    const dy = Math.floor(i / width) + 0.5 - cy;
    const w = strength[i]! / total;
    xx += w * dx * dx;
    xy += w * dx * dy;
    yy += w * dy * dy;
  }
  const direction = 0.5 * Math.atan2(2 * xy, xx - yy);
  const ux = Math.cos(direction);
  const uy = Math.sin(direction);
  const across = xx * uy * uy - 2 * xy * ux * uy + yy * ux * ux;
  if (across > WIDEST_PX * WIDEST_PX) return undefined;
  let least = Infinity;
  let most = -Infinity;
  for (const i of region) {
    const along = ((i % width) + 0.5 - cx) * ux + (Math.floor(i / width) + 0.5 - cy) * uy;
    least = Math.min(least, along);
    most = Math.max(most, along);
  }
  if (most - least < SHORTEST_PX) return undefined;
  return {
    x0: cx + least * ux,
    y0: cy + least * uy,
    x1: cx + most * ux,
    y1: cy + most * uy,
    length: most - least,
  };
}
