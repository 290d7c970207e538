import { blurPlane } from '../image/boxBlur.ts';
import type { RasterImage } from '../image/rasterImage.ts';

/** A place that the eye is drawn to. */
export interface Fixation {
  /** In px of the picture. */
  x: number;
  y: number;
  /** How strongly, as a share of the strongest. */
  strength: number;
}

/** Longest side of the grid on which the picture is looked at. */
const GRID_SIDE = 64;
/** Standard deviation of the smoothing, as a share of the grid's width. */
const BLUR_SHARE = 0.045;
/** What was looked at is left aside within this share of the longer side. */
const PASSED_SHARE = 0.14;
/** How much weaker the corners draw than the middle. */
const CENTRE_PULL = 0.45;
/** Places weaker than this, beside the first, are not told. */
const WEAKEST = 0.12;

/**
 * An estimate of where the eye goes, the first place first, at most `most`: what is sparse in a picture, found as the
 * picture's image signature (the sign of its cosine transform, brought back and squared) in lightness and two colour
 * differences, a little weaker towards the corners; each place looked at is left aside for the next.
 * X. Hou, J. Harel, C. Koch: Image Signature, PAMI, 2012; inhibition of return after L. Itti, C. Koch, E. Niebur, PAMI,
 * 1998. Transparent pixels count as the mean. O(pixels).
 */
export function findFixations(image: RasterImage, most: number): Fixation[] {
  const { planes, width, height } = reduced(image);
  const map = new Float32Array(width * height);
  for (const plane of planes) {
    const signature = inverseCosine(cosine(plane, width, height).map(Math.sign), width, height);
    for (let i = 0; i < map.length; i++) map[i]! += signature[i]! ** 2;
  }
  const smooth = blurPlane(map, width, height, BLUR_SHARE * width, 3);
  for (let i = 0; i < smooth.length; i++) {
    const dx = (2 * ((i % width) + 0.5)) / width - 1;
    const dy = (2 * (Math.floor(i / width) + 0.5)) / height - 1;
    smooth[i]! *= 1 - (CENTRE_PULL * (dx * dx + dy * dy)) / 2;
  }
  const fixations: Fixation[] = [];
  const passed = PASSED_SHARE * Math.max(width, height);
  let first = 0;
  while (fixations.length < most) {
    const at = smooth.reduce((best, value, i) => (value > smooth[best]! ? i : best), 0);
    const strength = smooth[at]!;
    first ||= strength;
    if (!(strength > WEAKEST * first)) break;
    const [x, y] = [at % width, Math.floor(at / width)];
    fixations.push({
      x: ((x + 0.5) / width) * image.width,
      y: ((y + 0.5) / height) * image.height,
      strength: strength / first,
    });
    for (let i = 0; i < smooth.length; i++) {
      const away = ((i % width) - x) ** 2 + (Math.floor(i / width) - y) ** 2;
      smooth[i]! *= 1 - Math.exp(-away / (2 * (passed / 2) ** 2));
    }
  }
  return fixations;
}

/** Lightness and two colour differences as means over the cells of a small grid, each less its mean. */
function reduced({ width: fullWidth, height: fullHeight, data }: RasterImage) {
  const scale = Math.min(1, GRID_SIDE / Math.max(fullWidth, fullHeight));
  const width = Math.max(2, Math.round(fullWidth * scale));
  const height = Math.max(2, Math.round(fullHeight * scale));
  const planes = [0, 1, 2].map(() => new Float32Array(width * height));
  const counts = new Float32Array(width * height);
  for (let y = 0; y < fullHeight; y++) {
    const row = Math.floor((y * height) / fullHeight) * width;
    for (let x = 0; x < fullWidth; x++) {
      const i = 4 * (y * fullWidth + x);
      if (data[i + 3]! < 255) continue;
      const cell = row + Math.floor((x * width) / fullWidth);
      const [r, g, b] = [data[i]!, data[i + 1]!, data[i + 2]!];
      planes[0]![cell]! += (r + g + b) / 3;
      planes[1]![cell]! += r - g;
      planes[2]![cell]! += b - (r + g) / 2;
      counts[cell]! += 1;
    }
  }
  const known = counts.reduce((sum, count) => sum + (count ? 1 : 0), 0);
  for (const plane of planes) {
    let mean = 0;
    for (let i = 0; i < plane.length; i++) if (counts[i]) mean += (plane[i]! /= counts[i]!) / known;
    for (let i = 0; i < plane.length; i++) plane[i] = counts[i] ? plane[i]! - mean : 0;
  }
  return { planes, width, height };
}

/** The cosine transform (type II, orthonormal) of a small plane. */
const cosine = (plane: Float32Array, width: number, height: number): Float32Array =>
  alongRows(alongRows(plane, width, height, false), height, width, false);

const inverseCosine = (plane: Float32Array, width: number, height: number): Float32Array =>
  alongRows(alongRows(plane, width, height, true), height, width, true);

/** Transforms every row and lays the result on its side, so that twice makes rows and columns. */
function alongRows(plane: Float32Array, width: number, height: number, inverse: boolean): Float32Array {
  const out = new Float32Array(plane.length);
  const basis = (k: number, x: number): number =>
    Math.sqrt((k === 0 ? 1 : 2) / width) * Math.cos((Math.PI * k * (2 * x + 1)) / (2 * width));
  const table = Float32Array.from({ length: width * width }, (_, i) => {
    const [k, x] = [Math.floor(i / width), i % width];
    return inverse ? basis(x, k) : basis(k, x);
  });
  for (let y = 0; y < height; y++) {
    for (let k = 0; k < width; k++) {
      let sum = 0;
      for (let x = 0; x < width; x++) sum += table[k * width + x]! * plane[y * width + x]!;
      out[k * height + y] = sum;
    }
  }
  return out;
}
