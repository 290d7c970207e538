import { blurPlane } from '../image/boxBlur.ts';
import { lumaAt } from '../image/luma.ts';
import { rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import { bytesBy, floatsBy } from '../numeric/filled.ts';

/** Octaves of fineness that are looked at. */
const OCTAVES = 3;
const MAX_PIXELS = 250_000;
const MARGIN_PX = 64;
/** Side, in reduced px, of the cells in which detail is measured. */
const CELL_PX = 16;
const SWEEPS = 120;
/** Mean square, in levels, below which detail is hardly more than rounding. */
const ROUNDING = 0.25;

/** How far the detail of a rebuilt place is from what its surroundings let expect, in octaves of amplitude. */
export interface DetailMeasures {
  /** Mean absolute difference over the place and over three octaves of fineness. */
  detailError: number;
}

/** What was found of a place's detail, at a size reduced by `factor` from the window's corner on. */
export interface Detail extends DetailMeasures {
  window: Rect;
  factor: number;
  /** The cells in which it is measured, across and down; the same for all octaves. */
  cells: Size;
  /** How lively what is known around is: the mean amplitude of an octave, in levels. */
  liveliness: number;
  /** From the finest to the coarsest, each of half the width and height of the one before. */
  octaves: readonly DetailOctave[];
}

/** An octave of luma. */
export interface DetailOctave {
  width: number;
  height: number;
  /** What luma differs by from what is coarser, in levels. */
  luma: Float32Array;
  cellPx: number;
  /** By how many octaves amplitude falls short of what is expected, of each cell; 0 where nothing was rebuilt. */
  shortfall: Float32Array;
  /** The mean of what is known over its root mean square: .8 for grain, less where there are a few lines or edges. */
  evenness: number;
}

/** The luma of what is known in and around a place that is rebuilt, at the size at which detail is measured. */
export interface KnownLuma {
  image: RasterImage;
  hole: Hole;
  window: Rect;
  factor: number;
  reduced: Octave;
}

/** Room for it; `hole` has one byte a pixel of `image`, non-zero = rebuilt. */
export function roomForLuma(image: RasterImage, hole: Hole, box: Rect, { scratch }: Kernels): KnownLuma {
  const factor = Math.max(1, Math.round(Math.sqrt((box.width * box.height) / MAX_PIXELS)));
  const window = intersect(inflate(box, MARGIN_PX * factor), wholeOf(image));
  const width = Math.max(1, Math.floor(window.width / factor));
  const height = Math.max(1, Math.floor(window.height / factor));
  const [luma, inside] = [scratch.floats(width * height), scratch.bytes(width * height)];
  return { image, hole, window, factor, reduced: { width, height, luma, inside } };
}

/** Reads it, and notes where something is rebuilt. */
export function readKnownLuma({ image, hole, window, factor, reduced }: KnownLuma): void {
  const { width, height, luma, inside } = reduced;
  const { steps, stride } = samplesOf(factor);
  const sums = new Float64Array(width);
  for (let y = 0; y < height; y++) {
    sums.fill(0);
    const made = inside.subarray(y * width, (y + 1) * width);
    for (let k = 0; k < steps * steps; k++) {
      const py = window.y + y * factor + Math.floor(k / steps) * stride;
      const from = py * image.width + window.x + (k % steps) * stride;
      for (let x = 0, at = from; x < width; x++, at += factor) {
        if (hole[at] === 0) sums[x]! += lumaAt(image.data, 4 * at);
        else made[x] = 1;
      }
    }
    for (let x = 0; x < width; x++) luma[y * width + x] = sums[x]! / (steps * steps);
  }
}

/** Two by two of a reduced pixel's own stand for all of them: how many there are a side, and how far they lie apart. */
function samplesOf(factor: number): { steps: number; stride: number } {
  const steps = Math.min(factor, 2);
  return { steps, stride: Math.floor(factor / steps) };
}

/**
 * Compares a rebuilt place with its surroundings in octaves of luma between Gaussians of 1, 2, 4 and 8 px (P. Burt,
 * E. Adelson: The Laplacian Pyramid as a Compact Image Code, IEEE Trans. Communications, 1983): the amplitude of each
 * of them in cells of 16 px against its harmonic interpolation from the known cells around. `rebuilt` is RGBA of `box`.
 * At most 250,000 px are looked at, larger places reduced by a whole factor. The octaves' planes stay in the kernels'
 * scratch; `known` serves once.
 */
export function measureDetail(known: KnownLuma, box: Rect, rebuilt: RasterImage, kernels: Kernels): Detail {
  const { window, factor, reduced } = known;
  const { scratch } = kernels;
  const { width, height, luma, inside } = reduced;
  // These stay.
  const planes = Array.from({ length: OCTAVES }, (_, k) => scratch.floats((width >> k) * (height >> k)));
  const giveBack = scratch.hold();
  kernels.inBands(REBUILT_LUMA, { known, box, rebuilt: kernels.share(rebuilt.data) }, rowBands(height));
  const cells = { width: Math.ceil(width / CELL_PX), height: Math.ceil(height / CELL_PX) };
  const first = blurTo(luma, width, height, 1, kernels);
  let octave: Octave = { width, height, luma: first, inside };
  const measured: DetailWork[] = [];
  for (const [k, differences] of planes.entries()) {
    // From a standard deviation of 1 px to one of 2, with which halving makes it 1 again.
    const coarser = blurTo(octave.luma, octave.width, octave.height, Math.sqrt(3), kernels);
    const n = cells.width * cells.height;
    const work = {
      octave,
      coarser,
      next: roomForHalf(octave, kernels),
      cellPx: CELL_PX >> k,
      across: cells.width,
      differences,
      energy: scratch.floats(2 * n),
      count: scratch.floats(2 * n),
      amounts: scratch.doubles(cells.height),
      shortfall: scratch.floats(n),
    };
    kernels.inBands(DETAIL, work, cells.height);
    measured.push(work);
    octave = work.next;
  }
  const results = scratch.doubles(JUDGED * OCTAVES);
  kernels.inBands(JUDGE_DETAIL, { measured, results }, OCTAVES);
  let error = 0;
  let liveliness = 0;
  const octaves = measured.map(({ octave: { width, height }, differences, cellPx, shortfall }, k): DetailOctave => {
    const [ownError, amplitude, evenness] = results.subarray(JUDGED * k, JUDGED * (k + 1));
    error += ownError! / OCTAVES;
    liveliness += amplitude! / OCTAVES;
    return { width, height, luma: differences, cellPx, shortfall: shortfall.slice(), evenness: evenness! };
  });
  giveBack();
  return { detailError: error, window, factor, cells, liveliness, octaves };
}

/** A plane of luma, and where (1) it was rebuilt. */
interface Octave {
  width: number;
  height: number;
  luma: Float32Array;
  inside: Uint8Array;
}

/** Two box passes whose variance adds up to a Gaussian's. */
const blurTo = (plane: Float32Array, width: number, height: number, sigma: number, kernels: Kernels) =>
  kernels.blurInScratch(plane, width, height, (Math.sqrt(6 * sigma * sigma + 1) - 1) / 2, 2);

/** Room for the next octave: means of two by two; a last odd column or row is left out. */
function roomForHalf({ width, height }: Size, { scratch }: Kernels): Octave {
  const n = (width >> 1) * (height >> 1);
  return { width: width >> 1, height: height >> 1, luma: scratch.floats(n), inside: scratch.bytes(n) };
}

interface RebuiltLuma {
  known: KnownLuma;
  box: Rect;
  /** RGBA of the box. */
  rebuilt: Uint8ClampedArray;
}

/** Adds what was rebuilt to the luma of a band of rows. */
function rebuiltLumaBand({ known, box, rebuilt }: RebuiltLuma, band: number): void {
  const { image, hole, window, factor, reduced } = known;
  const { width, height, luma, inside } = reduced;
  const { steps, stride } = samplesOf(factor);
  const { from, to } = rowsOfBand(band, height);
  for (let y = from; y < to; y++) {
    for (let k = 0; k < steps * steps; k++) {
      const py = window.y + y * factor + Math.floor(k / steps) * stride;
      const px = window.x + (k % steps) * stride;
      const own = (py - box.y) * box.width + px - box.x;
      for (let x = 0, i = y * width, at = py * image.width + px; x < width; x++, i++, at += factor) {
        if (inside[i] === 0 || hole[at] === 0) continue;
        luma[i]! += lumaAt(rebuilt, 4 * (own + x * factor)) / (steps * steps);
      }
    }
  }
}

export const REBUILT_LUMA: BandWork<RebuiltLuma> = { name: 'rebuiltLuma', band: rebuiltLumaBand };

interface DetailWork {
  octave: Octave;
  /** The octave's luma over a Gaussian twice as wide. */
  coarser: Float32Array;
  next: Octave;
  cellPx: number;
  /** Cells across. */
  across: number;
  /** What the octave's luma differs by from what is coarser. */
  differences: Float32Array;
  /** Of each cell the sum of squares of what is known, then of what was rebuilt, and how many px. */
  energy: Float32Array;
  count: Float32Array;
  /** Of each row of cells the sum of what is known. */
  amounts: Float64Array;
  /** See `DetailOctave`. */
  shortfall: Float32Array;
}

/** Measures a row of cells, and makes its part of the next octave. */
function detailBand(work: DetailWork, band: number): void {
  const { octave, coarser, next, cellPx, across, differences, energy, count, amounts } = work;
  const { width, height, luma, inside } = octave;
  const n = energy.length / 2;
  const from = band * cellPx;
  const to = Math.min(height, from + cellPx);
  let amount = 0;
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const at = inside[i]! * n + band * across + Math.floor(x / cellPx);
      const difference = luma[i]! - coarser[i]!;
      differences[i] = difference;
      energy[at]! += difference * difference;
      count[at]! += 1;
      if (inside[i] === 0) amount += Math.abs(difference);
    }
  }
  amounts[band] = amount;
  for (let y = from >> 1; y < Math.min(next.height, to >> 1); y++) {
    for (let x = 0; x < next.width; x++) {
      const i = 2 * (y * width + x);
      const half = y * next.width + x;
      next.luma[half] = 0.25 * (coarser[i]! + coarser[i + 1]! + coarser[i + width]! + coarser[i + width + 1]!);
      next.inside[half] = inside[i]! | inside[i + 1]! | inside[i + width]! | inside[i + width + 1]!;
    }
  }
}

export const DETAIL: BandWork<DetailWork> = { name: 'detail', band: detailBand };

/** Numbers that an octave is judged by: how far its cells are from what is expected, liveliness around, evenness. */
const JUDGED = 3;

interface JudgeWork {
  /** What was measured, of each octave, and room for what it comes to. */
  measured: readonly DetailWork[];
  results: Float64Array;
}

function judgeOctave({ measured, results }: JudgeWork, octaveIndex: number): void {
  const { octave, energy, count, amounts, across, shortfall } = measured[octaveIndex]!;
  const n = energy.length / 2;
  const down = n / across;
  const smooth = (planes: Float32Array, which: number): Float32Array =>
    blurPlane(planes.subarray(which * n, (which + 1) * n), across, down, 1, 1);
  const [knownEnergy, rebuiltEnergy] = [smooth(energy, 0), smooth(energy, 1)];
  const [known, rebuilt] = [smooth(count, 0), smooth(count, 1)];
  const level = (e: number, c: number): number => Math.log2(Math.sqrt(e / c) + 1);
  const expected = floatsBy(n, (i) => (known[i]! > 0 ? level(knownEnergy[i]!, known[i]!) : 0));
  const unknown = bytesBy(n, (i) => (count[i]! > 0 ? 0 : 1));
  interpolateHarmonically(expected, unknown, across, down, SWEEPS);
  let sum = 0;
  let weight = 0;
  for (let i = 0; i < n; i++) {
    const c = count[n + i]!;
    if (c === 0) continue;
    shortfall[i] = expected[i]! - level(rebuiltEnergy[i]!, rebuilt[i]!);
    sum += c * Math.abs(shortfall[i]!);
    weight += c;
  }
  const outside = Math.max(1, octave.width * octave.height - weight);
  const knownSquares = energy.subarray(0, n).reduce((total, e) => total + e, 0);
  const liveliness = amounts.reduce((total, each) => total + each, 0) / outside;
  const evenness = liveliness / Math.sqrt(knownSquares / outside + ROUNDING);
  results.set([weight > 0 ? sum / weight : 0, liveliness, evenness], JUDGED * octaveIndex);
}

export const JUDGE_DETAIL: BandWork<JudgeWork> = { name: 'judgeDetail', band: judgeOctave };
