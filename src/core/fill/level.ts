import type { Scratch } from '../kernels/scratch.ts';
import type { Hole, Usable } from '../mask/byteMasks.ts';

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
  hole: Hole;
  /** 1 where the pixel may be copied from: wholly known and allowed. */
  usable: Usable;
}

/** Which of a level's patches are to be rebuilt, and from which. */
interface LevelLists {
  /** Distance, in px and counted in 8-connected layers, from the hole's rim; 0 outside the hole. */
  depth: Int32Array;
  /** Centres (pixel indices, raster order) of all whole patches that touch the hole. */
  targets: Int32Array;
  /** For each row, and one past the last, the index into `targets` of the first target that is not above it. */
  rowStarts: Int32Array;
  /** 1 at the centres in `targets`. */
  isTarget: Uint8Array;
  /** Centres of all patches that lie wholly in usable pixels. */
  donors: Int32Array;
  /** 1 at the centres in `donors`. */
  isDonor: Uint8Array;
  /** The hole's pixels, in raster order. */
  holePixels: Int32Array;
}

/** One pyramid level with what the correspondence search walks over. */
export interface Level extends LevelPixels, LevelLists {
  /** What a patch counts in votes for how deep in the hole its centre lies: 1.15^-depth, one a target. */
  falloff: Float64Array;
  /** What a donor centre costs beyond the difference of the patches, >= 0. */
  bias: Int32Array;
  /** What a donor costs for every row it lies above or below its target. */
  heightWeight: number;
  /** However many rows that are, it costs no more than this. */
  mostForHeight: number;
  /** Room for what a vote makes of the hole's pixels, four bytes each. */
  next: Uint8Array;
  /** Room for the weights of a vote, 0 but at target centres. */
  weight: Float32Array;
}

/** A level's pixels with room for its lists, as long as there are pixels, and for how much of it they take. */
export interface LevelRoom extends LevelPixels, LevelLists {
  /** How many targets, donors and pixels of the hole there are, and how deep that is. */
  found: Int32Array;
}
const [TARGETS, DONORS, HOLE, DEEPEST] = [0, 1, 2, 3];

/** Room for the lists of a level, in `scratch`. */
export function roomForLists({ width, height, features, hole, usable }: LevelPixels, scratch: Scratch): LevelRoom {
  const n = width * height;
  return {
    width,
    height,
    features,
    hole,
    usable,
    depth: scratch.ints(n),
    targets: scratch.ints(n),
    rowStarts: scratch.ints(height + 1),
    isTarget: scratch.bytes(n),
    donors: scratch.ints(n),
    isDonor: scratch.bytes(n),
    holePixels: scratch.ints(n),
    found: scratch.ints(4),
  };
}

/** Lists the targets of a level. */
export function listTargets({ width, height, hole, targets, rowStarts, isTarget, found }: LevelRoom): void {
  dilateSquare(hole, 1, width, height, isTarget);
  let count = 0;
  for (let y = 0, i = 0; y < height; y++) {
    rowStarts[y] = count;
    for (let x = 0; x < width; x++, i++) if (isTarget[i]) targets[count++] = i;
  }
  rowStarts[height] = count;
  found[TARGETS] = count;
}

/** Lists the donors of a level. */
export function listDonors({ width, height, usable, donors, isDonor, found }: LevelRoom): void {
  // At first those that are not.
  dilateSquare(usable, 0, width, height, isDonor);
  let count = 0;
  for (let y = PATCH_RADIUS; y < height - PATCH_RADIUS; y++) {
    for (let i = y * width + PATCH_RADIUS; i < (y + 1) * width - PATCH_RADIUS; i++) {
      isDonor[i] = 1 - isDonor[i]!;
      if (isDonor[i]) donors[count++] = i;
    }
  }
  found[DONORS] = count;
}

/** Lists the pixels of a level's hole, and how deep in it they lie. */
export function measureHole({ width, height, hole, depth, holePixels, found }: LevelRoom): void {
  holeDepth(hole, width, height, depth);
  let count = 0;
  let deepest = 0;
  for (let i = 0; i < hole.length; i++) {
    if (!hole[i]) continue;
    holePixels[count++] = i;
    deepest = Math.max(deepest, depth[i]!);
  }
  found[HOLE] = count;
  found[DEEPEST] = deepest;
}

/** How deep the hole of a level is, in px. */
export const deepest = ({ found }: LevelRoom): number => found[DEEPEST]!;

/** The level whose lists were made. */
export function listedLevel(room: LevelRoom, heightWeight: number, mostForHeight: number, scratch: Scratch): Level {
  const { width, height, features, hole, usable, depth, rowStarts, isTarget, isDonor, found } = room;
  const targets = room.targets.subarray(0, found[TARGETS]);
  const falloff = scratch.doubles(targets.length);
  const falloffAt: number[] = [];
  for (let k = 0; k < targets.length; k++) {
    const layers = depth[targets[k]!]!;
    falloff[k] = falloffAt[layers] ??= DEPTH_FALLOFF ** -layers;
  }
  return {
    width,
    height,
    features,
    hole,
    usable,
    depth,
    targets,
    falloff,
    rowStarts,
    isTarget,
    donors: room.donors.subarray(0, found[DONORS]),
    isDonor,
    bias: scratch.ints(hole.length),
    heightWeight,
    mostForHeight,
    holePixels: room.holePixels.subarray(0, found[HOLE]),
    next: scratch.bytes(4 * found[HOLE]!),
    weight: scratch.floats(hole.length),
  };
}

/** A level by itself, its lists made at once. */
export function indexLevel(pixels: LevelPixels, heightWeight: number, scratch: Scratch): Level {
  const room = roomForLists(pixels, scratch);
  listTargets(room);
  listDonors(room);
  measureHole(room);
  return listedLevel(room, heightWeight, UNLIMITED, scratch);
}

/** Sets 1 in `out` wherever a pixel within PATCH_RADIUS (Chebyshev) is `what`; at whole patches' centres only. */
function dilateSquare(bits: Uint8Array, what: number, width: number, height: number, out: Uint8Array): void {
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
    const leaving = y - PATCH_SIDE + 1;
    if (leaving < 0) continue;
    for (let x = PATCH_RADIUS; x < width - PATCH_RADIUS; x++) {
      if (around[x]! > 0) out[centre * width + x] = 1;
      if (rows[leaving * width + x]) around[x]!--;
    }
  }
}

/** Chebyshev distance to the nearest pixel outside the hole (two chamfer passes are exact for it). */
function holeDepth(hole: Hole, width: number, height: number, depth: Int32Array): void {
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
}

function relax(depth: Int32Array, width: number, height: number, x: number, y: number, dx: number, dy: number): void {
  const nx = x + dx;
  const ny = y + dy;
  if (nx < 0 || ny < 0 || nx >= width || ny >= height) return;
  const i = y * width + x;
  depth[i] = Math.min(depth[i]!, depth[ny * width + nx]! + 1);
}
