import { blurPlane } from '../image/boxBlur.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { enclosed } from './enclosed.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import { bytesBy, floatsBy } from '../numeric/filled.ts';

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

/**
 * Compares the coarse tones of a rebuilt place (encoded RGB) with what those around it let expect: between takes of one
 * place, the farther the likelier there is a wedge or a blotch in it. Between known tones that is their harmonic
 * interpolation; past the picture's edge, the nearest known tone carried on. `rebuilt` is RGBA of `box`; `hole` has one
 * byte a pixel of `image`, non-zero = rebuilt; `area` is the number of these.
 */
export function measureTone(
  image: RasterImage,
  hole: Uint8Array,
  box: Rect,
  rebuilt: RasterImage,
  area: number,
): ToneMeasures {
  const { sums, width, height } = sumCells(image, hole, box, rebuilt, area);
  const n = width * height;
  const known = sums.subarray(3 * n, 4 * n);
  const made = sums.subarray(7 * n, 8 * n);
  const isHole = bytesBy(n, (i) => (known[i]! > made[i]! ? 0 : 1));
  const surroundings = floatsBy(n, (i) => (isHole[i] ? 0 : known[i]!));
  const isBetween = enclosed(isHole, width, height);
  const nearest = nearestKnown(isHole, width, height);
  const weights = blurPlane(surroundings, width, height, BLUR_RADIUS, 2);
  let [error, cells, mean, squares, around] = [0, 0, 0, 0, 0];
  for (let c = 0; c < 3; c++) {
    const ofKnown = sums.subarray(c * n, (c + 1) * n);
    const ofMade = sums.subarray((4 + c) * n, (5 + c) * n);
    const knownTone = blurPlane(
      floatsBy(n, (i) => (isHole[i] ? 0 : ofKnown[i]!)),
      width,
      height,
      BLUR_RADIUS,
      2,
    );
    const smooth = floatsBy(n, (i) => (isHole[i] ? 0 : knownTone[i]! / weights[i]!));
    const between = smooth.slice();
    interpolateHarmonically(between, isHole, width, height, SWEEPS);
    const both = floatsBy(n, (i) => (ofKnown[i]! + ofMade[i]!) / Math.max(1, known[i]! + made[i]!));
    const tone = blurPlane(both, width, height, BLUR_RADIUS, 2);
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
  }
  if (cells === 0 || around === 0) return { toneError: 0 };
  const variety = Math.sqrt(Math.max(0, squares / around - (mean / around) ** 2));
  return { toneError: error / cells / (variety + LEAST_VARIETY) };
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

/** Of each cell the sums of known R, G, B, how many, then the same of what was rebuilt: eight planes. */
function sumCells(
  image: RasterImage,
  hole: Uint8Array,
  box: Rect,
  rebuilt: RasterImage,
  area: number,
): { sums: Float32Array<ArrayBuffer>; width: number; height: number } {
  const size = Math.sqrt(area);
  const side = Math.max(1, Math.floor(size / CELLS_ACROSS));
  const window = intersect(inflate(box, Math.round(MARGIN_SHARE * size) + MARGIN_PX), wholeOf(image));
  const width = Math.ceil(window.width / side);
  const height = Math.ceil(window.height / side);
  const n = width * height;
  const sums = new Float32Array(8 * n);
  const step = Math.max(1, Math.floor(side / READ_ACROSS));
  for (let y = 0; y < window.height; y += step) {
    const row = Math.floor(y / side) * width;
    for (let x = 0; x < window.width; x += step) {
      const [u, v] = [x + window.x, y + window.y];
      const p = v * image.width + u;
      const isMade = hole[p] !== 0;
      const data = isMade ? rebuilt.data : image.data;
      const at = 4 * (isMade ? (v - box.y) * box.width + u - box.x : p);
      const cell = (isMade ? 4 * n : 0) + row + Math.floor(x / side);
      for (let c = 0; c < 3; c++) sums[cell + c * n]! += data[at + c]!;
      sums[cell + 3 * n]! += 1;
    }
  }
  return { sums, width, height };
}
