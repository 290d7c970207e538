import type { RasterImage } from '../image/rasterImage.ts';
import type { Size } from '../image/rect.ts';
import { rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Donors, Hole } from '../mask/byteMasks.ts';
import type { LevelPixels } from './level.ts';
import { SUMS_PER_CELL, type PhotoStrip } from './reduce.ts';

/** Work rows that are reduced in one go. */
const STRIP_ROWS = 32;

/**
 * The photo reduced to the fill's work size in one streaming pass, by a whole factor, so that a work offset is a whole
 * offset at full resolution. A work pixel is the area average of its known pixels; it is hole if any of its pixels is,
 * usable only if all of it lies in the photo, known, opaque and (where `donors` is given) at 255 there. T is the mean
 * luma gradient magnitude measured at full resolution (it tells fine texture apart that the reduction averages away),
 * lightly blurred, times `textureWeight`, cut off at 255.
 *
 * `hole` and `donors` have one byte per photo pixel. Work size is ceil(size / factor); cells that stick out over the
 * right or lower edge average what there is. O(photo pixels), in strips: no plane of the photo's size is made.
 */
export function makeWorkImage(
  image: RasterImage,
  hole: Hole,
  donors: Donors | undefined,
  factor: number,
  textureWeight: number,
  kernels: Kernels,
): LevelPixels {
  const { scratch } = kernels;
  const width = Math.ceil(image.width / factor);
  const height = Math.ceil(image.height / factor);
  const features = scratch.bytes(width * height * 4 + FEATURE_PADDING);
  const workHole = scratch.bytes(width * height);
  const usable = scratch.bytes(width * height);
  const texture = scratch.floats(width * height).fill(-1);
  const strips = readStrips(image, hole, donors, factor, kernels);
  const sums = scratch.ints(width * STRIP_ROWS * SUMS_PER_CELL);
  const flags = scratch.bytes(width * STRIP_ROWS);
  const photo = { width: image.width, height: image.height };
  const work = { photo, factor, width, height, sums, flags, features, hole: workHole, usable, texture };
  for (let row = 0; row < height; row += STRIP_ROWS) {
    const rows = Math.min(STRIP_ROWS, height - row);
    kernels.reduce(strips(row * factor), { width, sums, flags }, rows);
    kernels.inBands(WORK_CELLS, work, rows, row);
  }
  const cells = width * height;
  const [along, counts] = [scratch.floats(cells), scratch.bytes(cells)];
  const blurred = { texture, width, height, weight: textureWeight, features, sums: along, counts };
  kernels.inBands(TEXTURE_ROWS, blurred, rowBands(height));
  kernels.inBands(TEXTURE_COLUMNS, blurred, rowBands(height));
  return { width, height, features, hole: workHole, usable };
}

interface CellsWork extends LevelPixels {
  photo: Size;
  factor: number;
  /** Of a strip; see `reduceRow`. */
  sums: Int32Array;
  flags: Uint8Array;
  /** T of each cell, -1 where nothing of it is known. */
  texture: Float32Array;
}

/** Writes a row of cells from its strip's sums. */
function workCellsBand(work: CellsWork, row: number): void {
  const { photo, factor, width, sums, flags, features, hole, usable, texture } = work;
  const inStrip = (row % STRIP_ROWS) * width;
  const isBelow = (row + 1) * factor > photo.height;
  for (let x = 0; x < width; x++) {
    const cell = row * width + x;
    const k = inStrip + x;
    hole[cell] = flags[k]! & 1;
    const sticksOut = isBelow || (x + 1) * factor > photo.width;
    usable[cell] = sticksOut || flags[k]! & 2 ? 0 : 1;
    const s = k * SUMS_PER_CELL;
    const known = sums[s + 4]!;
    if (!known) continue;
    const luma = sums[s]! / (256 * known);
    features[4 * cell] = Math.round(luma);
    features[4 * cell + 1] = Math.round(128 + 0.564 * (sums[s + 1]! / known - luma));
    features[4 * cell + 2] = Math.round(128 + 0.713 * (sums[s + 2]! / known - luma));
    texture[cell] = sums[s + 3]! / (256 * known);
  }
}

export const WORK_CELLS: BandWork<CellsWork> = { name: 'workCells', band: workCellsBand };

/** The photo's strips by their first row: where kernels can't reach it, copied out of it one after the other. */
function readStrips(
  image: RasterImage,
  hole: Hole,
  donors: Donors | undefined,
  factor: number,
  { scratch, reaches }: Kernels,
): (y: number) => PhotoStrip {
  const { width, height } = image;
  const pixels = new Uint8Array(image.data.buffer, image.data.byteOffset, image.data.length);
  const stripRows = STRIP_ROWS * factor;
  const everywhere = donors ? undefined : scratch.bytes(width * stripRows).fill(255);
  const inReach = [pixels, hole, ...(donors ? [donors] : [])].every(reaches);
  const room = inReach
    ? undefined
    : {
        pixels: scratch.bytes(width * (stripRows + 1) * 4),
        holes: scratch.bytes(width * (stripRows + 1)),
        donors: scratch.bytes(donors ? width * stripRows : 0),
      };
  return (y) => {
    const rows = Math.min(stripRows, height - y);
    const below = y + rows < height;
    const start = y * width;
    const end = start + (rows + (below ? 1 : 0)) * width;
    const seen = {
      pixels: pixels.subarray(4 * start, 4 * end),
      holes: hole.subarray(start, end),
      donors: donors?.subarray(start, start + rows * width),
    };
    room?.pixels.set(seen.pixels);
    room?.holes.set(seen.holes);
    if (seen.donors) room?.donors.set(seen.donors);
    return {
      width,
      rows,
      below,
      factor,
      pixels: room?.pixels ?? seen.pixels,
      holes: room?.holes ?? seen.holes,
      donors: everywhere ?? room?.donors ?? seen.donors!,
    };
  };
}

/** Kernels read whole vectors: the last patch row may reach this far over the last pixel. */
export const FEATURE_PADDING = 16;

const TEXTURE_BLUR_RADIUS = 2;

interface TextureWork {
  texture: Float32Array;
  width: number;
  height: number;
  weight: number;
  features: Uint8Array;
  /** Over five cells of a row each: the sum of those with any known pixel, and how many these are. */
  sums: Float32Array;
  counts: Uint8Array;
}

function textureRowsBand({ texture, width, height, sums, counts }: TextureWork, band: number): void {
  const { from, to } = rowsOfBand(band, height);
  for (let y = from; y < to; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      const end = Math.min(width - 1, x + TEXTURE_BLUR_RADIUS);
      for (let u = Math.max(0, x - TEXTURE_BLUR_RADIUS); u <= end; u++) {
        const t = texture[row + u]!;
        if (t < 0) continue;
        sums[row + x]! += t;
        counts[row + x]!++;
      }
    }
  }
}

export const TEXTURE_ROWS: BandWork<TextureWork> = { name: 'textureRows', band: textureRowsBand };

/** Writes the mean over 5 x 5 cells of those with any known pixel. */
function textureColumnsBand({ width, height, weight, features, sums, counts }: TextureWork, band: number): void {
  const { from, to } = rowsOfBand(band, height);
  for (let y = from; y < to; y++) {
    const first = Math.max(0, y - TEXTURE_BLUR_RADIUS);
    const last = Math.min(height - 1, y + TEXTURE_BLUR_RADIUS);
    for (let x = 0; x < width; x++) {
      let sum = 0;
      let count = 0;
      for (let i = first * width + x; i <= last * width + x; i += width) {
        sum += sums[i]!;
        count += counts[i]!;
      }
      features[4 * (y * width + x) + 3] = count ? Math.min(255, Math.round((weight * sum) / count)) : 0;
    }
  }
}

export const TEXTURE_COLUMNS: BandWork<TextureWork> = { name: 'textureColumns', band: textureColumnsBand };
