import type { Scratch } from '../kernels/scratch.ts';

/** Half a patch: patches are (2 x PATCH_RADIUS + 1)^2 work pixels. */
export const PATCH_RADIUS = 3;
export const PATCH_SIDE = 2 * PATCH_RADIUS + 1;
const DEPTH_FALLOFF = 1.15;
/** A limit of costs that none reaches. */
export const UNLIMITED = 2 ** 31 - 1;

/** The pixels of one pyramid level, before the lists that a search needs are made. */
export interface LevelPixels {
  width: number;
  height: number;
  /** Four interleaved bytes a pixel: Y', Cb, Cr (BT.601, encoded values) and the texture measure T; then padding. */
  features: Uint8Array;
  /** 1 where the pixel is to be rebuilt. */
  hole: Uint8Array;
  /** 1 where the pixel may be copied from: wholly known and allowed. */
  usable: Uint8Array;
}

/** One pyramid level with what the correspondence search walks over. */
export interface Level extends LevelPixels {
  /** Distance, in px and counted in 8-connected layers, from the hole's rim; 0 outside the hole. */
  depth: Uint16Array;
  /** Centres (pixel indices, raster order) of all whole patches that touch the hole. */
  targets: Int32Array;
  /** What a patch counts in votes for how deep in the hole its centre lies: 1.15^-depth, one a target. */
  falloff: Float64Array;
  /** For each row, and one past the last, the index into `targets` of the first target that is not above it. */
  rowStarts: Int32Array;
  /** 1 at the centres in `targets`. */
  isTarget: Uint8Array;
  /** Centres of all patches that lie wholly in usable pixels. */
  donors: Int32Array;
  /** 1 at the centres in `donors`. */
  isDonor: Uint8Array;
  /** What a donor centre costs beyond the difference of the patches, >= 0. */
  bias: Int32Array;
  /** What a donor costs for every row it lies above or below its target. */
  heightWeight: number;
  /** However many rows that are, it costs no more than this. */
  mostForHeight: number;
  /** The hole's pixels, in raster order. */
  holePixels: Int32Array;
  /** Room for what a vote makes of the hole's pixels, four bytes each. */
  next: Uint8Array;
  /** Room for the weights of a vote, 0 but at target centres. */
  weight: Float32Array;
}

/** Adds depth, targets and donors to a level's pixels. */
export function indexLevel(
  pixels: LevelPixels,
  heightWeight: number,
  scratch: Scratch,
  mostForHeight = UNLIMITED,
): Level {
  const { width, height, hole, usable } = pixels;
  const n = width * height;
  const touchesHole = dilateSquare(hole, 1, width, height);
  const touchesUnusable = dilateSquare(usable, 0, width, height);
  const isTarget = scratch.bytes(n);
  const isDonor = scratch.bytes(n);
  const rowStarts = scratch.ints(height + 1);
  const [targets, donors, holePixels] = [new Int32Array(n), new Int32Array(n), new Int32Array(n)];
  let [targetCount, donorCount, holeCount] = [0, 0, 0];
  for (let y = 0; y < height; y++) {
    rowStarts[y] = targetCount;
    const whole = y >= PATCH_RADIUS && y < height - PATCH_RADIUS;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (hole[i]) holePixels[holeCount++] = i;
      if (!whole || x < PATCH_RADIUS || x >= width - PATCH_RADIUS) continue;
      if (touchesHole[i]) {
        isTarget[i] = 1;
        targets[targetCount++] = i;
      }
      if (!touchesUnusable[i]) {
        isDonor[i] = 1;
        donors[donorCount++] = i;
      }
    }
  }
  rowStarts[height] = targetCount;
  const keep = (list: Int32Array, count: number): Int32Array => {
    const kept = scratch.ints(count);
    kept.set(list.subarray(0, count));
    return kept;
  };
  const depth = holeDepth(hole, width, height);
  const falloff = scratch.doubles(targetCount);
  const falloffAt: number[] = [];
  for (let k = 0; k < targetCount; k++) {
    const layers = depth[targets[k]!]!;
    falloff[k] = falloffAt[layers] ??= DEPTH_FALLOFF ** -layers;
  }
  return {
    width,
    height,
    features: pixels.features,
    hole,
    usable,
    depth,
    targets: keep(targets, targetCount),
    falloff,
    rowStarts,
    isTarget,
    donors: keep(donors, donorCount),
    isDonor,
    bias: scratch.ints(n),
    heightWeight,
    mostForHeight,
    holePixels: keep(holePixels, holeCount),
    next: scratch.bytes(4 * holeCount),
    weight: scratch.floats(n),
  };
}

/** 1 wherever a pixel within PATCH_RADIUS (Chebyshev) is `what`; of whole patches' centres only. */
function dilateSquare(bits: Uint8Array, what: number, width: number, height: number): Uint8Array {
  const out = new Uint8Array(bits.length);
  // How many of the rows around the one at hand have it within reach to either side, of each column.
  const around = new Int32Array(width);
  const rows = new Uint8Array(bits.length);
  for (let y = 0; y < height; y++) {
    let last = -PATCH_SIDE;
    for (let i = y * width, x = 0; x < width; i++, x++) {
      if (bits[i] === what) last = x;
      if (x >= PATCH_RADIUS && last > x - PATCH_SIDE) {
        rows[i - PATCH_RADIUS] = 1;
        around[x - PATCH_RADIUS]!++;
      }
    }
    const centre = y - PATCH_RADIUS;
    if (centre < 0) continue;
    const leaving = y - PATCH_SIDE + 1;
    for (let x = 0; x < width; x++) {
      if (around[x]! > 0) out[centre * width + x] = 1;
      if (leaving >= 0 && rows[leaving * width + x]) around[x]!--;
    }
  }
  return out;
}

/** Chebyshev distance to the nearest pixel outside the hole (two chamfer passes are exact for it). */
export function holeDepth(hole: Uint8Array, width: number, height: number): Uint16Array {
  const depth = new Uint16Array(hole.length);
  for (let i = 0; i < depth.length; i++) depth[i] = hole[i] ? 65000 : 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!depth[y * width + x]) continue;
      relax(depth, width, height, x, y, -1, 0);
      relax(depth, width, height, x, y, -1, -1);
      relax(depth, width, height, x, y, 0, -1);
      relax(depth, width, height, x, y, 1, -1);
    }
  }
  for (let y = height - 1; y >= 0; y--) {
    for (let x = width - 1; x >= 0; x--) {
      if (!depth[y * width + x]) continue;
      relax(depth, width, height, x, y, 1, 0);
      relax(depth, width, height, x, y, 1, 1);
      relax(depth, width, height, x, y, 0, 1);
      relax(depth, width, height, x, y, -1, 1);
    }
  }
  return depth;
}

function relax(depth: Uint16Array, width: number, height: number, x: number, y: number, dx: number, dy: number): void {
  const nx = x + dx;
  const ny = y + dy;
  if (nx < 0 || ny < 0 || nx >= width || ny >= height) return;
  const i = y * width + x;
  depth[i] = Math.min(depth[i]!, depth[ny * width + nx]! + 1);
}
