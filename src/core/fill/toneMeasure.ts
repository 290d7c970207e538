import { blurPlane } from '../image/boxBlur.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { enclosed } from './enclosed.ts';
import { inflate, intersect, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import { floatsBy } from '../numeric/filled.ts';

/** A place is looked at in so many cells across, were it square. */
const CELLS_ACROSS = 24;
/** Around it is looked as far as this share of its size and a little more. */
const MARGIN_SHARE = 0.3;
const MARGIN_PX = 16;
/** Tones are taken over a Gaussian of about two cells. */
const BLUR_RADIUS = 1.5;
/** Of a cell so many rows and columns are read. */
const READ_ACROSS = 4;
const SWEEPS = 100;
/** Levels added to how much the tones around vary, lest a plain ground make every difference infinite. */
const LEAST_VARIETY = 4;

/** How far the tone of a rebuilt place is from what its surroundings let expect. */
export interface ToneMeasures {
  /** Mean absolute difference, as a multiple of the standard deviation of the tones around. */
  toneError: number;
}

/** A rebuilt place and what lies around it, to be read in cells. */
export interface TonePlace {
  /** The picture, of which `hole` (one byte a pixel, non-zero) was rebuilt: as `rebuilt`, RGBA of `box`. */
  image: RasterImage;
  hole: Uint8Array;
  box: Rect;
  rebuilt: RasterImage;
}

/** The tones of a place in cells. */
export interface ToneCells {
  width: number;
  height: number;
  /** Sides of a cell in px, and how many of these are stepped over in reading. */
  side: number;
  step: number;
  window: Rect;
  /** Of each cell the sums of known R, G, B, how many, then the same of what was rebuilt: eight planes. */
  sums: Float32Array;
  /** 1 where more was rebuilt than is known. */
  isHole: Uint8Array;
  /** 1 where there is something known to both sides. */
  isBetween: Uint8Array;
  /** The known cell nearest to each. */
  nearest: Int32Array;
  /** How much of what is known reaches each cell. */
  weights: Float32Array;
}

/** Room for the tones of a place of which `area` pixels were rebuilt. */
export function roomForTones(image: Size, box: Rect, area: number, { scratch }: Pick<Kernels, 'scratch'>): ToneCells {
  const size = Math.sqrt(area);
  const side = Math.max(1, Math.floor(size / CELLS_ACROSS));
  const window = intersect(inflate(box, Math.round(MARGIN_SHARE * size) + MARGIN_PX), wholeOf(image));
  const width = Math.ceil(window.width / side);
  const height = Math.ceil(window.height / side);
  const n = width * height;
  return {
    width,
    height,
    side,
    step: Math.max(1, Math.floor(side / READ_ACROSS)),
    window,
    sums: scratch.floats(8 * n),
    isHole: scratch.bytes(n),
    isBetween: scratch.bytes(n),
    nearest: scratch.ints(n),
    weights: scratch.floats(n),
  };
}

/** Sums up a row of cells. */
function readCells({ place, cells }: { place: TonePlace; cells: ToneCells }, row: number): void {
  const { image, hole, box, rebuilt } = place;
  const { width, height, side, step, window, sums } = cells;
  const n = width * height;
  const end = Math.min(window.height, side * (row + 1));
  for (let y = Math.ceil((side * row) / step) * step; y < end; y += step) {
    const v = y + window.y;
    for (let x = 0; x < window.width; x += step) {
      const u = x + window.x;
      const p = v * image.width + u;
      const isMade = hole[p] !== 0;
      const data = isMade ? rebuilt.data : image.data;
      const at = 4 * (isMade ? (v - box.y) * box.width + u - box.x : p);
      const cell = (isMade ? 4 * n : 0) + row * width + Math.floor(x / side);
      for (let c = 0; c < 3; c++) sums[cell + c * n]! += data[at + c]!;
      sums[cell + 3 * n]! += 1;
    }
  }
}

export const TONE_CELLS: BandWork<{ place: TonePlace; cells: ToneCells }> = { name: 'toneCells', band: readCells };

/** Notes, of cells that are read, which are known and what lies around the others. */
export function judgeCells({ width, height, sums, isHole, isBetween, nearest, weights }: ToneCells): void {
  const n = width * height;
  const known = sums.subarray(3 * n, 4 * n);
  const made = sums.subarray(7 * n, 8 * n);
  for (let i = 0; i < n; i++) isHole[i] = known[i]! > made[i]! ? 0 : 1;
  isBetween.set(enclosed(isHole, width, height));
  nearest.set(nearestKnown(isHole, width, height));
  const surroundings = floatsBy(n, (i) => (isHole[i] ? 0 : known[i]!));
  weights.set(blurPlane(surroundings, width, height, BLUR_RADIUS, 2));
}

/** What a channel's tones add up to: how far they are off where rebuilt, in how many cells, and those of the others. */
export type ChannelTone = [error: number, cells: number, mean: number, squares: number, around: number];

/**
 * Compares the coarse tones of a rebuilt place (encoded R, G or B: `channel` 0 to 2) with what those around it let
 * expect: between known tones their harmonic interpolation; past the picture's edge, the nearest known tone carried on.
 */
export function channelTone(cellsRead: ToneCells, channel: number): ChannelTone {
  const { width, height, sums, isHole, isBetween, nearest, weights } = cellsRead;
  const n = width * height;
  const plane = (k: number): Float32Array => sums.subarray(k * n, (k + 1) * n);
  const [known, made, ofKnown, ofMade] = [plane(3), plane(7), plane(channel), plane(4 + channel)];
  const outside = floatsBy(n, (i) => (isHole[i] ? 0 : ofKnown[i]!));
  const knownTone = blurPlane(outside, width, height, BLUR_RADIUS, 2);
  const smooth = floatsBy(n, (i) => (isHole[i] ? 0 : knownTone[i]! / weights[i]!));
  const between = smooth.slice();
  interpolateHarmonically(between, isHole, width, height, SWEEPS);
  const both = floatsBy(n, (i) => (ofKnown[i]! + ofMade[i]!) / Math.max(1, known[i]! + made[i]!));
  const tone = blurPlane(both, width, height, BLUR_RADIUS, 2);
  let [error, cells, mean, squares, around] = [0, 0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    if (isHole[i]) {
      error += Math.abs(tone[i]! - (isBetween[i] ? between[i]! : smooth[nearest[i]!]!));
      cells++;
    } else {
      mean += both[i]!;
      squares += both[i]! ** 2;
      around++;
    }
  }
  return [error, cells, mean, squares, around];
}

/** Between takes of one place, the farther off the likelier there is a wedge or a blotch in it. */
export function toneErrorOf(channels: readonly ChannelTone[]): number {
  const [error, cells, mean, squares, around] = channels.reduce((a, b) => a.map((x, k) => x + b[k]!) as ChannelTone);
  if (cells === 0 || around === 0) return 0;
  const variety = Math.sqrt(Math.max(0, squares / around - (mean / around) ** 2));
  return error / cells / (variety + LEAST_VARIETY);
}

/** For each cell the known one nearest to it, by city blocks; itself where it is known. */
function nearestKnown(isHole: Uint8Array, width: number, height: number): Int32Array {
  const nearest = new Int32Array(isHole.length).fill(-1);
  const reached: number[] = [];
  for (let i = 0; i < isHole.length; i++) {
    if (isHole[i]) continue;
    nearest[i] = i;
    reached.push(i);
  }
  for (const i of reached) {
    const x = i % width;
    const beside = [x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i, i - width, i + width];
    for (const j of beside) {
      if (j < 0 || j >= width * height || nearest[j] !== -1) continue;
      nearest[j] = nearest[i]!;
      reached.push(j);
    }
  }
  return nearest;
}
