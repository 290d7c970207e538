import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { byteFromLinear, LINEAR_FROM_BYTE } from '../image/linearLight.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Size } from '../image/rect.ts';
import { carryPoint, type Camera } from './camera.ts';
import type { Overlap } from './overlaps.ts';

/** How bright frames came out, compared in linear light. */
export interface Exposure {
  /** By frame: how much of red, green and blue arrived, their mean over the frames being 1 (geometrically). */
  gains: [number, number, number][];
  /** Light falls off by exp(a r^2 + b r^4), r from the middle in half diagonals; one for all frames. */
  falloff: readonly [a: number, b: number];
  /** How much more than in the middle tones a difference in light shows in the darkest, see `contrastAt`. */
  curve: number;
}

/** Encoded value, 0 to 1, at which the tone curve of a camera passes on light as it is. */
const MIDDLE_TONE = 0.55;

/**
 * Cameras bend tones: twice the light is more than twice as bright in the shadows and less in the highlights. The
 * logarithm of a difference in light is multiplied by this at an encoded value (0 to 1).
 */
export const contrastAt = (curve: number, value: number): number => Math.max(0.2, 1 + curve * (MIDDLE_TONE - value));

/** Places compared in each direction of a frame. */
const GRID = 120;
/** Encoded values outside of these are not trusted. */
const DARKEST = 12;
const BRIGHTEST = 243;
/** Places where neighbouring px differ by more levels are passed over: the slightest shift would change them. */
const ROUGHEST = 24;
/** What frames are expected to differ by, as the spread of the logarithm; keeps frames without comparison at 1. */
const USUAL_DIFFERENCE = 1;
const USUAL_FALLOFF = 0.15;
const USUAL_CURVE = 1;
/** Logarithms further from what the others say than this count less: something moved there, or shines. */
const OUTLIER = 0.05;
const ROUNDS = 20;

/**
 * Gains and the lens' falloff towards the corners from what overlapping frames show alike: least squares of the
 * logarithms of light at the same places, robust by reweighting. M. Brown, D. Lowe, IJCV 2007, section 6; D. Goldman,
 * J.-H. Chen: Vignette and Exposure Calibration and Compensation, ICCV 2005 (an even polynomial, its first two terms).
 *
 * @param small each frame made small: what is compared are its px
 */
export function findExposure(
  overlaps: readonly Overlap[],
  cameras: readonly Camera[],
  sizes: readonly Size[],
  small: readonly RasterImage[],
): Exposure {
  const comparisons = overlaps.flatMap(({ a, b }) => compare(a, b, cameras, sizes, small));
  const count = sizes.length;
  let solution = new Array<number>(3 * count + 2).fill(0);
  let curve = 0;
  for (let round = 0; round < ROUNDS; round++) {
    ({ solution, curve } = improve(comparisons, count, solution, curve, round > 0));
  }
  const logs = solution.slice(0, 3 * count);
  const compared = new Set(overlaps.flatMap(({ a, b }) => [a, b]));
  const mean = [...compared].reduce((sum, k) => sum + (logs[3 * k]! + logs[3 * k + 1]! + logs[3 * k + 2]!) / 3, 0);
  const level = mean / Math.max(1, compared.size);
  const gain = (log: number): number => Math.exp(log - level);
  return {
    gains: sizes.map((_, k) =>
      compared.has(k) ? [gain(logs[3 * k]!), gain(logs[3 * k + 1]!), gain(logs[3 * k + 2]!)] : [1, 1, 1],
    ),
    falloff: [solution[3 * count]!, solution[3 * count + 1]!],
    curve,
  };
}

/**
 * One round: logarithms of gains (three a frame) and the two of the falloff for the present curve, and the curve that
 * fits what the present solution leaves over.
 */
function improve(
  comparisons: readonly Comparison[],
  count: number,
  solution: readonly number[],
  curve: number,
  isRobust: boolean,
): { solution: number[]; curve: number } {
  const unknowns = 3 * count + 2;
  const matrix = Matrix.zeros(unknowns, unknowns);
  const right = Matrix.zeros(unknowns, 1);
  const add = (to: Matrix, row: number, column: number, value: number): void =>
    void to.set(row, column, to.get(row, column) + value);
  for (let k = 0; k < unknowns; k++) add(matrix, k, k, 1 / (k < 3 * count ? USUAL_DIFFERENCE : USUAL_FALLOFF) ** 2);
  let [alongTone, tones] = [0, 1 / USUAL_CURVE ** 2];
  for (const { a, b, ratios, values, further } of comparisons) {
    for (let c = 0; c < 3; c++) {
      const contrast = contrastAt(curve, values[c]!);
      const places = [3 * a + c, 3 * b + c, 3 * count, 3 * count + 1];
      const factors = [contrast, -contrast, contrast * further[0], contrast * further[1]];
      const light = places.reduce((sum, place, k) => sum + factors[k]! * solution[place]!, 0);
      const off = light - ratios[c]!;
      const weight = isRobust ? Math.min(1, OUTLIER / Math.abs(off)) / OUTLIER ** 2 : 1;
      const byTone = (MIDDLE_TONE - values[c]!) * (light / contrast);
      alongTone -= weight * byTone * off;
      tones += weight * byTone * byTone;
      places.forEach((row, k) => {
        places.forEach((column, l) => add(matrix, row, column, weight * (factors[k]! * factors[l]!)));
        add(right, row, 0, weight * factors[k]! * ratios[c]!);
      });
    }
  }
  return {
    solution: new CholeskyDecomposition(matrix).solve(right).to1DArray(),
    curve: curve + alongTone / tones,
  };
}

interface Comparison {
  a: number;
  b: number;
  /** Logarithm of the light in `a` over that in `b`, by channel. */
  ratios: [number, number, number];
  /** Encoded values there, 0 to 1, the mean of both frames. */
  values: [number, number, number];
  /** By how much further from the middle `a` shows it: half diagonals squared, and to the fourth. */
  further: [number, number];
}

function compare(
  a: number,
  b: number,
  cameras: readonly Camera[],
  sizes: readonly Size[],
  small: readonly RasterImage[],
): Comparison[] {
  const [sizeA, sizeB] = [sizes[a]!, sizes[b]!];
  const found: Comparison[] = [];
  const place = [0, 0, 0];
  for (let row = 0; row < GRID; row++) {
    for (let column = 0; column < GRID; column++) {
      const [x, y] = [((column + 0.5) / GRID) * sizeA.width, ((row + 0.5) / GRID) * sizeA.height];
      carryPoint(x, y, cameras[a]!, sizeA, cameras[b]!, sizeB, place);
      const [u, v] = [place[0]!, place[1]!];
      if (!(u > 0 && v > 0 && u < sizeB.width && v < sizeB.height)) continue;
      const lightA = lightAt(small[a]!, (x / sizeA.width) * small[a]!.width, (y / sizeA.height) * small[a]!.height);
      const lightB = lightAt(small[b]!, (u / sizeB.width) * small[b]!.width, (v / sizeB.height) * small[b]!.height);
      if (!lightA || !lightB) continue;
      const [nearA, nearB] = [squareFromMiddle(x, y, sizeA), squareFromMiddle(u, v, sizeB)];
      found.push({
        a,
        b,
        ratios: [Math.log(lightA[0] / lightB[0]), Math.log(lightA[1] / lightB[1]), Math.log(lightA[2] / lightB[2])],
        values: [0, 1, 2].map((c) => byteFromLinear(Math.sqrt(lightA[c]! * lightB[c]!)) / 255) as Comparison['values'],
        further: [nearA - nearB, nearA ** 2 - nearB ** 2],
      });
    }
  }
  return found;
}

/** The square of how far from the middle a point of a frame lies, in half diagonals. */
export const squareFromMiddle = (x: number, y: number, { width, height }: Size): number =>
  (4 * ((x - width / 2) ** 2 + (y - height / 2) ** 2)) / (width * width + height * height);

/** Light of the 3 x 3 px around a point; undefined where one of them is too dark or too bright to tell. */
function lightAt({ width, height, data }: RasterImage, x: number, y: number): [number, number, number] | undefined {
  const [left, top] = [Math.floor(x) - 1, Math.floor(y) - 1];
  if (left < 0 || top < 0 || left + 3 > width || top + 3 > height) return undefined;
  const light: [number, number, number] = [0, 0, 0];
  let [least, most] = [255, 0];
  for (let row = top; row < top + 3; row++) {
    for (let i = 4 * (row * width + left), end = i + 12; i < end; i += 4) {
      for (let c = 0; c < 3; c++) {
        const value = data[i + c]!;
        if (value < DARKEST || value > BRIGHTEST) return undefined;
        light[c]! += LINEAR_FROM_BYTE[value]! / 9;
      }
      least = Math.min(least, data[i + 1]!);
      most = Math.max(most, data[i + 1]!);
    }
  }
  return most - least > ROUGHEST ? undefined : light;
}
