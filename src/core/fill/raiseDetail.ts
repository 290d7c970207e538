import { interpolation, mix } from '../image/interpolate.ts';
import type { Rect, Size } from '../image/rect.ts';
import { rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Hole } from '../mask/byteMasks.ts';
import type { Detail, DetailOctave } from './detailMeasure.ts';

/** The share of what detail falls short of what is expected that it is raised by, and by how many octaves at most. */
const RAISED_BY = 0.8;
const MAX_RAISED = 0.6;
/** Below this evenness detail is a few lines, whose number around tells nothing of how many there are inside; */
const MIN_EVEN = 0.5;
/** from here on it is texture. */
const WHOLLY_EVEN = 0.65;

/**
 * Raises the detail of a rebuilt place where it falls short of what its surroundings let expect: in each octave by most of
 * what is missing, up to half as much again, as far as it is texture rather than a few lines. Places are rebuilt from
 * donors that fit, and what is calm fits more easily than what is lively. Luma alone is changed, all channels by the same
 * levels; what is livelier than expected stays so.
 *
 * `detail` is what `measureDetail` found of the place; `hole` has one byte a pixel of a picture `across` px wide;
 * `rebuilt`, RGBA of `box`, is changed in place where `hole` is not 0.
 */
export function raiseDetail(
  { octaves, cells, factor, window }: Detail,
  hole: Hole,
  across: number,
  box: Rect,
  rebuilt: Uint8ClampedArray,
  kernels: Kernels,
): void {
  const giveBack = kernels.scratch.hold();
  const missing = missingLuma(octaves, cells, kernels);
  if (!missing) {
    giveBack();
    return;
  }
  const [{ width, height }] = octaves as [DetailOctave];
  const columns = columnsOn(width, box.width, factor, box.x - window.x, kernels);
  const work = { missing, width, height, columns, factor, window, hole, across, box, out: rebuilt };
  kernels.inBands(RAISE, work, rowBands(box.height));
  giveBack();
}

/** What is to be added to luma on the pixels of the first octave, of all together; nothing if none is missing. */
function missingLuma(
  [octave, ...coarser]: readonly DetailOctave[],
  cells: Size,
  kernels: Kernels,
): Float32Array | undefined {
  if (!octave) return undefined;
  const { width, height, luma, cellPx, shortfall, evenness } = octave;
  const asTexture = Math.max(0, Math.min(1, (evenness - MIN_EVEN) / (WHOLLY_EVEN - MIN_EVEN)));
  const gains = shortfall.map(
    (missing) => 2 ** (asTexture * Math.min(MAX_RAISED, RAISED_BY * Math.max(0, missing))) - 1,
  );
  const below = missingLuma(coarser, cells, kernels);
  if (!below && !gains.some((gain) => gain > 0)) return undefined;
  const out = kernels.scratch.floats(width * height);
  const add = (coarse: Float32Array, coarseSize: Size, cellPx: number, factors?: Float32Array): void => {
    const columns = columnsOn(coarseSize.width, width, cellPx, 0, kernels);
    const size = { width: coarseSize.width, height: coarseSize.height };
    const work = { out, width, height, factors, coarse: kernels.share(coarse), coarseSize: size, columns, cellPx };
    kernels.inBands(ADD_COARSE, work, rowBands(height));
  };
  add(gains, cells, cellPx, luma);
  const next = coarser[0];
  if (below && next) add(below, next, 2);
  return out;
}

interface AddWork {
  out: Float32Array;
  width: number;
  height: number;
  /** What a pixel's value is multiplied by, where that is not 1. */
  factors: Float32Array | undefined;
  coarse: Float32Array;
  coarseSize: Size;
  columns: Columns;
  cellPx: number;
}

/** Adds a coarse plane, whose cells are `cellPx` wide, to a band of a finer one's rows. */
function addCoarseBand(work: AddWork, band: number): void {
  const { out, width, height, factors, coarse, coarseSize, columns, cellPx } = work;
  const { low, high, share } = columns;
  const line = new Float32Array(coarseSize.width);
  const { from, to } = rowsOfBand(band, height);
  for (let y = from; y < to; y++) {
    if (!readLine(line, coarse, coarseSize, (y + 0.5) / cellPx)) continue;
    const row = y * width;
    for (let x = 0; x < width; x++) {
      const left = line[low[x]!]!;
      const value = left + (line[high[x]!]! - left) * share[x]!;
      if (value !== 0) out[row + x]! += factors ? value * factors[row + x]! : value;
    }
  }
}

export const ADD_COARSE: BandWork<AddWork> = { name: 'addCoarse', band: addCoarseBand };

/** Between which cells of a coarse row each place of a finer one lies, and how far on from the first. */
interface Columns {
  low: Int32Array;
  high: Int32Array;
  share: Float32Array;
}

/** For `count` places from the one after `from` on; a cell of the coarse row, which has `size`, is `cellPx` of them wide. */
function columnsOn(size: number, count: number, cellPx: number, from: number, { scratch }: Kernels): Columns {
  const columns = { low: scratch.ints(count), high: scratch.ints(count), share: scratch.floats(count) };
  for (let x = 0; x < count; x++) {
    const { low, high, share } = interpolation((from + x + 0.5) / cellPx - 0.5, size);
    columns.low[x] = low;
    columns.high[x] = high;
    columns.share[x] = share;
  }
  return columns;
}

/** Reads a plane `y` cells below its upper edge; whether there is anything but zeros. */
function readLine(line: Float32Array, plane: Float32Array, { width, height }: Size, y: number): boolean {
  const { low, high, share } = interpolation(y - 0.5, height);
  let isAny = false;
  for (let x = 0; x < width; x++) {
    line[x] = mix(plane[low * width + x]!, plane[high * width + x]!, share);
    if (line[x] !== 0) isAny = true;
  }
  return isAny;
}

interface RaiseWork {
  /** Levels to be added, on the window reduced by `factor`. */
  missing: Float32Array;
  width: number;
  height: number;
  columns: Columns;
  factor: number;
  window: Rect;
  hole: Hole;
  across: number;
  box: Rect;
  /** RGBA of the box. */
  out: Uint8ClampedArray;
}

/** Adds what is missing to a band of the box's rows. */
function raiseBand(work: RaiseWork, band: number): void {
  const { missing, width, height, columns, factor, window, hole, across, box, out } = work;
  const { low, high, share } = columns;
  const { from, to } = rowsOfBand(band, box.height);
  const line = new Float32Array(width);
  for (let y = from; y < to; y++) {
    if (!readLine(line, missing, { width, height }, (y + box.y - window.y + 0.5) / factor)) continue;
    const row = (y + box.y) * across + box.x;
    for (let x = 0; x < box.width; x++) {
      if (hole[row + x] === 0) continue;
      const left = line[low[x]!]!;
      const levels = left + (line[high[x]!]! - left) * share[x]!;
      // Too little to change a whole number.
      if (levels > -0.5 && levels < 0.5) continue;
      const at = 4 * (y * box.width + x);
      out[at] = out[at]! + levels;
      out[at + 1] = out[at + 1]! + levels;
      out[at + 2] = out[at + 2]! + levels;
    }
  }
}

export const RAISE: BandWork<RaiseWork> = { name: 'raise', band: raiseBand };
