import { blurPlane } from '../image/boxBlur.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';

/** Standard deviations, in px of the reduced picture, of the finer side of each band; the coarser has twice that. */
const SCALES = [1, 2, 4];
const MOST_PIXELS = 250_000;
const MARGIN_PX = 64;
/** Side, in reduced px, of the cells in which detail is measured. */
const CELL_PX = 16;
const SWEEPS = 120;

/** How far the detail of a rebuilt place is from what its surroundings let expect, in octaves of amplitude. */
export interface DetailMeasures {
  /** Mean absolute difference over the place and over three bands of fineness. */
  detailError: number;
}

/**
 * Compares a rebuilt place with its surroundings in bands of luma between Gaussians of 1, 2, 4 and 8 px (P. Burt,
 * E. Adelson: The Laplacian Pyramid as a Compact Image Code, IEEE Trans. Communications, 1983): the amplitude of each band in cells of 16 px against its harmonic
 * interpolation from the known cells around. `rebuilt` is RGBA of `box`; `hole` has one byte a pixel of `image`,
 * non-zero = rebuilt. At most 250,000 px are looked at, larger places reduced by a whole factor.
 */
export function measureDetail(image: RasterImage, hole: Uint8Array, box: Rect, rebuilt: RasterImage): DetailMeasures {
  const factor = Math.max(1, Math.round(Math.sqrt((box.width * box.height) / MOST_PIXELS)));
  const window = intersect(inflate(box, MARGIN_PX * factor), wholeOf(image));
  const reduced = reduceLuma(image, hole, box, rebuilt, window, factor);
  const { width, height, luma, inside } = reduced;
  const cells = { width: Math.ceil(width / CELL_PX), height: Math.ceil(height / CELL_PX) };
  let finer = blurTo(luma, width, height, SCALES[0]!);
  let error = 0;
  for (const scale of SCALES) {
    const coarser = blurTo(luma, width, height, 2 * scale);
    error += bandError(finer, coarser, inside, width, height, cells);
    finer = coarser;
  }
  return { detailError: error / SCALES.length };
}

/** Two box passes whose variance adds up to a Gaussian's. */
const blurTo = (plane: Float32Array<ArrayBuffer>, width: number, height: number, sigma: number) =>
  blurPlane(plane, width, height, (Math.sqrt(6 * sigma * sigma + 1) - 1) / 2, 2);

function reduceLuma(
  image: RasterImage,
  hole: Uint8Array,
  box: Rect,
  rebuilt: RasterImage,
  window: Rect,
  factor: number,
): { width: number; height: number; luma: Float32Array<ArrayBuffer>; inside: Uint8Array } {
  const width = Math.max(1, Math.floor(window.width / factor));
  const height = Math.max(1, Math.floor(window.height / factor));
  const luma = new Float32Array(width * height);
  const inside = new Uint8Array(width * height);
  // Two by two of a cell's pixels stand for all of them.
  const steps = Math.min(factor, 2);
  const stride = Math.floor(factor / steps);
  const scale = 1 / (steps * steps);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let k = 0; k < steps * steps; k++) {
        const px = window.x + x * factor + (k % steps) * stride;
        const py = window.y + y * factor + Math.floor(k / steps) * stride;
        const at = py * image.width + px;
        const isRebuilt = hole[at] !== 0;
        const { data } = isRebuilt ? rebuilt : image;
        const i = 4 * (isRebuilt ? (py - box.y) * box.width + px - box.x : at);
        sum += 0.299 * data[i]! + 0.587 * data[i + 1]! + 0.114 * data[i + 2]!;
        if (isRebuilt) inside[y * width + x] = 1;
      }
      luma[y * width + x] = scale * sum;
    }
  }
  return { width, height, luma, inside };
}

function bandError(
  finer: Float32Array,
  coarser: Float32Array,
  inside: Uint8Array,
  width: number,
  height: number,
  cells: { width: number; height: number },
): number {
  const n = cells.width * cells.height;
  const energy = [new Float32Array(n), new Float32Array(n)];
  const count = [new Float32Array(n), new Float32Array(n)];
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / CELL_PX) * cells.width;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const cell = row + Math.floor(x / CELL_PX);
      const which = inside[i]!;
      energy[which]![cell]! += (finer[i]! - coarser[i]!) ** 2;
      count[which]![cell]! += 1;
    }
  }
  const smooth = (plane: Float32Array): Float32Array =>
    blurPlane(plane as Float32Array<ArrayBuffer>, cells.width, cells.height, 1, 1);
  const [knownEnergy, rebuiltEnergy] = energy.map(smooth) as [Float32Array, Float32Array];
  const [known, rebuilt] = count.map(smooth) as [Float32Array, Float32Array];
  const level = (e: number, c: number): number => Math.log2(Math.sqrt(e / c) + 1);
  const expected = Float32Array.from(known, (c, i) => (c > 0 ? level(knownEnergy[i]!, c) : 0));
  const unknown = Uint8Array.from(count[0]!, (c) => (c > 0 ? 0 : 1));
  interpolateHarmonically(expected, unknown, cells.width, cells.height, SWEEPS);
  let sum = 0;
  let weight = 0;
  for (let i = 0; i < n; i++) {
    const c = count[1]![i]!;
    if (c === 0) continue;
    sum += c * Math.abs(level(rebuiltEnergy[i]!, rebuilt[i]!) - expected[i]!);
    weight += c;
  }
  return weight > 0 ? sum / weight : 0;
}
