import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { LINEAR_FROM_BYTE } from '../image/linearLight.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Size } from '../image/rect.ts';
import { carryPoint, type Camera } from './camera.ts';
import type { Overlap } from './overlaps.ts';

/** How bright frames came out, compared in linear light. */
export interface Exposure {
  /** By frame: how much of red, green and blue arrived, their mean over the frames being 1 (geometrically). */
  gains: [number, number, number][];
  /** Light falls off by exp(falloff r^2), r from the middle in half diagonals; one for all frames. */
  falloff: number;
}

/** Places compared in each direction of a frame. */
const GRID = 48;
/** Encoded values outside of these are not trusted. */
const DARKEST = 12;
const BRIGHTEST = 243;
/** What frames are expected to differ by, as the spread of the logarithm; keeps frames without comparison at 1. */
const USUAL_DIFFERENCE = 1;
const USUAL_FALLOFF = 0.15;
/** Logarithms further from what the others say than this count less: something moved there, or shines. */
const OUTLIER = 0.05;
const ROUNDS = 8;

/**
 * Gains and the lens' falloff towards the corners from what overlapping frames show alike: least squares of the
 * logarithms of light at the same places, robust by reweighting. M. Brown, D. Lowe, IJCV 2007, section 6; D. Goldman,
 * J.-H. Chen: Vignette and Exposure Calibration and Compensation, ICCV 2005 (an even polynomial, its first term).
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
  const unknowns = 3 * count + 1;
  let solution = new Array<number>(unknowns).fill(0);
  for (let round = 0; round < ROUNDS; round++) {
    const matrix = Matrix.zeros(unknowns, unknowns);
    const right = Matrix.zeros(unknowns, 1);
    const add = (row: number, column: number, value: number): void =>
      void matrix.set(row, column, matrix.get(row, column) + value);
    for (let k = 0; k < 3 * count; k++) add(k, k, 1 / USUAL_DIFFERENCE ** 2);
    add(unknowns - 1, unknowns - 1, 1 / USUAL_FALLOFF ** 2);
    for (const { a, b, ratios, further } of comparisons) {
      for (let c = 0; c < 3; c++) {
        const [i, j, f] = [3 * a + c, 3 * b + c, unknowns - 1];
        const off = solution[i]! - solution[j]! + further * solution[f]! - ratios[c]!;
        const weight = round === 0 ? 1 : Math.min(1, OUTLIER / Math.abs(off)) / OUTLIER ** 2;
        add(i, i, weight);
        add(j, j, weight);
        add(i, j, -weight);
        add(j, i, -weight);
        add(i, f, weight * further);
        add(f, i, weight * further);
        add(j, f, -weight * further);
        add(f, j, -weight * further);
        add(f, f, weight * further * further);
        right.set(i, 0, right.get(i, 0) + weight * ratios[c]!);
        right.set(j, 0, right.get(j, 0) - weight * ratios[c]!);
        right.set(f, 0, right.get(f, 0) + weight * further * ratios[c]!);
      }
    }
    solution = new CholeskyDecomposition(matrix).solve(right).to1DArray();
  }
  const logs = solution.slice(0, -1);
  const compared = new Set(overlaps.flatMap(({ a, b }) => [a, b]));
  const mean = [...compared].reduce((sum, k) => sum + (logs[3 * k]! + logs[3 * k + 1]! + logs[3 * k + 2]!) / 3, 0);
  const level = mean / Math.max(1, compared.size);
  const gain = (log: number): number => Math.exp(log - level);
  return {
    gains: sizes.map((_, k) =>
      compared.has(k) ? [gain(logs[3 * k]!), gain(logs[3 * k + 1]!), gain(logs[3 * k + 2]!)] : [1, 1, 1],
    ),
    falloff: solution.at(-1)!,
  };
}

interface Comparison {
  a: number;
  b: number;
  /** Logarithm of the light in `a` over that in `b`, by channel. */
  ratios: [number, number, number];
  /** By how much further from the middle `a` shows it, squared half diagonals. */
  further: number;
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
      found.push({
        a,
        b,
        ratios: [Math.log(lightA[0] / lightB[0]), Math.log(lightA[1] / lightB[1]), Math.log(lightA[2] / lightB[2])],
        further: squareFromMiddle(x, y, sizeA) - squareFromMiddle(u, v, sizeB),
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
  for (let row = top; row < top + 3; row++) {
    for (let i = 4 * (row * width + left), end = i + 12; i < end; i += 4) {
      for (let c = 0; c < 3; c++) {
        const value = data[i + c]!;
        if (value < DARKEST || value > BRIGHTEST) return undefined;
        light[c]! += LINEAR_FROM_BYTE[value]! / 9;
      }
    }
  }
  return light;
}
