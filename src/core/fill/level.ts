/** Half a patch: patches are (2 x PATCH_RADIUS + 1)^2 work pixels. */
export const PATCH_RADIUS = 3;
export const PATCH_SIDE = 2 * PATCH_RADIUS + 1;

/** The pixels of one pyramid level, before the lists that a search needs are made. */
export interface LevelPixels {
  width: number;
  height: number;
  /** Four interleaved bytes a pixel: Y', Cb, Cr (BT.601, encoded values) and the texture measure T. */
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
  /** 1 at the centres in `targets`. */
  isTarget: Uint8Array;
  /** Centres of all patches that lie wholly in usable pixels. */
  donors: Int32Array;
  /** 1 at the centres in `donors`. */
  isDonor: Uint8Array;
}

/** Adds depth, targets and donors to a level's pixels. */
export function indexLevel(pixels: LevelPixels): Level {
  const { width, height, hole, usable } = pixels;
  const unusable = usable.map((u) => 1 - u);
  const touchesHole = dilateSquare(hole, width, height);
  const touchesUnusable = dilateSquare(unusable, width, height);
  const isTarget = new Uint8Array(width * height);
  const isDonor = new Uint8Array(width * height);
  const targets: number[] = [];
  const donors: number[] = [];
  for (let y = PATCH_RADIUS; y < height - PATCH_RADIUS; y++) {
    for (let x = PATCH_RADIUS; x < width - PATCH_RADIUS; x++) {
      const i = y * width + x;
      if (touchesHole[i]) {
        isTarget[i] = 1;
        targets.push(i);
      }
      if (!touchesUnusable[i]) {
        isDonor[i] = 1;
        donors.push(i);
      }
    }
  }
  return {
    ...pixels,
    depth: holeDepth(hole, width, height),
    targets: Int32Array.from(targets),
    isTarget,
    donors: Int32Array.from(donors),
    isDonor,
  };
}

/** 1 wherever a pixel within PATCH_RADIUS (Chebyshev) is 1. */
function dilateSquare(bits: Uint8Array, width: number, height: number): Uint8Array {
  const rows = new Uint8Array(bits.length);
  for (let y = 0; y < height; y++) {
    let last = -Infinity;
    for (let x = 0; x < width + PATCH_RADIUS; x++) {
      if (x < width && bits[y * width + x]) last = x;
      const centre = x - PATCH_RADIUS;
      if (centre >= 0 && last >= centre - PATCH_RADIUS) rows[y * width + centre] = 1;
    }
  }
  const out = new Uint8Array(bits.length);
  for (let x = 0; x < width; x++) {
    let last = -Infinity;
    for (let y = 0; y < height + PATCH_RADIUS; y++) {
      if (y < height && rows[y * width + x]) last = y;
      const centre = y - PATCH_RADIUS;
      if (centre >= 0 && last >= centre - PATCH_RADIUS) out[centre * width + x] = 1;
    }
  }
  return out;
}

/** Chebyshev distance to the nearest pixel outside the hole (two chamfer passes are exact for it). */
export function holeDepth(hole: Uint8Array, width: number, height: number): Uint16Array {
  const depth = new Uint16Array(hole.length);
  for (let i = 0; i < depth.length; i++) depth[i] = hole[i] ? 65000 : 0;
  const relax = (x: number, y: number, dx: number, dy: number): void => {
    const nx = x + dx;
    const ny = y + dy;
    if (nx < 0 || ny < 0 || nx >= width || ny >= height) return;
    const i = y * width + x;
    depth[i] = Math.min(depth[i]!, depth[ny * width + nx]! + 1);
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!depth[y * width + x]) continue;
      relax(x, y, -1, 0);
      relax(x, y, -1, -1);
      relax(x, y, 0, -1);
      relax(x, y, 1, -1);
    }
  }
  for (let y = height - 1; y >= 0; y--) {
    for (let x = width - 1; x >= 0; x--) {
      if (!depth[y * width + x]) continue;
      relax(x, y, 1, 0);
      relax(x, y, 1, 1);
      relax(x, y, 0, 1);
      relax(x, y, -1, 1);
    }
  }
  return depth;
}
