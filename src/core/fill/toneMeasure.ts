import { blurPlane } from '../image/boxBlur.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { enclosed } from './enclosed.ts';
import { inflate, intersect, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Hole } from '../mask/byteMasks.ts';
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
const MIN_VARIETY = 4;

/** How far the tone of a rebuilt place is from what its surroundings let expect. */
export interface ToneMeasures {
  /** Mean absolute difference, as a multiple of the standard deviation of the tones around. */
  toneError: number;
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
  /** R, G and B expected of those cells: three planes. */
  expected: Float32Array;
}

/** Room for the tones of a place of which `area` pixels are rebuilt. */
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
    expected: scratch.floats(3 * n),
  };
}

/**
 * Reads what is known around a hole (one byte a pixel, non-zero) and which tones it lets expect there: between known
 * tones their harmonic interpolation; past the picture's edge, the nearest known tone carried on.
 */
export function expectTones({ width: across, data }: RasterImage, hole: Hole, cells: ToneCells): void {
  const { width, height, side, step, window, sums, isHole, expected } = cells;
  const n = width * height;
  for (let y = 0; y < window.height; y += step) {
    const row = Math.floor(y / side) * width;
    for (let x = 0; x < window.width; x += step) {
      const p = (y + window.y) * across + x + window.x;
      const cell = row + Math.floor(x / side);
      if (hole[p]) {
        sums[cell + 7 * n]! += 1;
        continue;
      }
      for (let c = 0; c < 3; c++) sums[cell + c * n]! += data[4 * p + c]!;
      sums[cell + 3 * n]! += 1;
    }
  }
  const known = sums.subarray(3 * n, 4 * n);
  const made = sums.subarray(7 * n, 8 * n);
  for (let i = 0; i < n; i++) isHole[i] = known[i]! > made[i]! ? 0 : 1;
  const isBetween = enclosed(isHole, width, height);
  const nearest = nearestKnown(isHole, width, height);
  const weights = blurredTones(
    floatsBy(n, (i) => (isHole[i] ? 0 : known[i]!)),
    cells,
  );
  for (let c = 0; c < 3; c++) {
    const outside = floatsBy(n, (i) => (isHole[i] ? 0 : sums[c * n + i]!));
    const knownTone = blurredTones(outside, cells);
    const smooth = floatsBy(n, (i) => (isHole[i] ? 0 : knownTone[i]! / weights[i]!));
    const between = smooth.slice();
    interpolateHarmonically(between, isHole, width, height, SWEEPS);
    for (let i = 0; i < n; i++) {
      if (isHole[i]) expected[c * n + i] = isBetween[i] ? between[i]! : smooth[nearest[i]!]!;
    }
  }
}

const blurredTones = (tones: Float32Array<ArrayBuffer>, { width, height }: Size): Float32Array =>
  blurPlane(tones, width, height, BLUR_RADIUS, 2);

interface RebuiltWork {
  cells: ToneCells;
  hole: Hole;
  /** Pixels in a row of `hole`. */
  across: number;
  box: Rect;
  rebuilt: RasterImage;
}

/** Sums up a row of cells where they were rebuilt. */
function readRebuilt({ cells, hole, across, box, rebuilt: { data } }: RebuiltWork, row: number): void {
  const { width, height, side, step, window, sums } = cells;
  const made = 4 * width * height;
  const end = Math.min(window.height, side * (row + 1));
  for (let y = Math.ceil((side * row) / step) * step; y < end; y += step) {
    const v = y + window.y;
    for (let x = 0; x < window.width; x += step) {
      const u = x + window.x;
      if (hole[v * across + u] === 0) continue;
      const at = 4 * ((v - box.y) * box.width + u - box.x);
      const cell = made + row * width + Math.floor(x / side);
      for (let c = 0; c < 3; c++) sums[cell + c * width * height]! += data[at + c]!;
    }
  }
}

export const REBUILT_TONES: BandWork<RebuiltWork> = { name: 'rebuiltTones', band: readRebuilt };

/** What a channel's tones add up to: how far they are off where rebuilt, in how many cells, and those of the others. */
type ChannelSums = [error: number, inHole: number, mean: number, squares: number, around: number];
const CHANNEL_NUMBERS = 5;

interface ChannelWork {
  cells: ToneCells;
  /** `CHANNEL_NUMBERS` a channel. */
  results: Float64Array;
}

/** Compares the tones of encoded R, G or B (`channel` 0 to 2) where they were rebuilt with those expected. */
function compareChannel({ cells, results }: ChannelWork, channel: number): void {
  const { width, height, sums, isHole, expected } = cells;
  const n = width * height;
  const plane = (k: number): Float32Array => sums.subarray(k * n, (k + 1) * n);
  const [known, made, ofKnown, ofMade] = [plane(3), plane(7), plane(channel), plane(4 + channel)];
  const both = floatsBy(n, (i) => (ofKnown[i]! + ofMade[i]!) / Math.max(1, known[i]! + made[i]!));
  const tone = blurredTones(both, cells);
  let [error, inHole, mean, squares, around] = [0, 0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    if (isHole[i]) {
      error += Math.abs(tone[i]! - expected[channel * n + i]!);
      inHole++;
    } else {
      mean += both[i]!;
      squares += both[i]! ** 2;
      around++;
    }
  }
  results.set([error, inHole, mean, squares, around] satisfies ChannelSums, CHANNEL_NUMBERS * channel);
}

export const CHANNEL_TONES: BandWork<ChannelWork> = { name: 'channelTones', band: compareChannel };

/**
 * How far the coarse tones of a rebuilt place are off (RGBA of `box`; `hole` is of a picture `across` px wide), of which
 * `cells`, which serve once, hold what is expected. Between takes of one place, the farther off the likelier there is a
 * wedge or a blotch.
 */
export function measureTones(
  cells: ToneCells,
  hole: Hole,
  across: number,
  box: Rect,
  rebuilt: RasterImage,
  kernels: Kernels,
): ToneMeasures {
  const giveBack = kernels.scratch.hold();
  kernels.inBands(REBUILT_TONES, { cells, hole, across, box, rebuilt }, cells.height);
  const results = kernels.scratch.doubles(3 * CHANNEL_NUMBERS);
  kernels.inBands(CHANNEL_TONES, { cells, results }, 3);
  const [error, inHole, mean, squares, around] = results
    .subarray(0, CHANNEL_NUMBERS)
    .map((sum, k) => sum + results[CHANNEL_NUMBERS + k]! + results[2 * CHANNEL_NUMBERS + k]!) as unknown as ChannelSums;
  giveBack();
  if (inHole === 0 || around === 0) return { toneError: 0 };
  const variety = Math.sqrt(Math.max(0, squares / around - (mean / around) ** 2));
  return { toneError: error / inHole / (variety + MIN_VARIETY) };
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
