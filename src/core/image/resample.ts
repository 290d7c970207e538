import { applyAffine, invertAffine, wholeShift, type Affine } from './affine.ts';
import { intersect, type Rect } from './rect.ts';

/** Interleaved planes of any meaning; `data` holds width x height x channels numbers. */
export interface Planes {
  width: number;
  height: number;
  channels: number;
  data: Float32Array;
}

/**
 * `source` carried through `toTarget` onto the pixels of `target`: bicubic interpolation (R. Keys, Cubic Convolution
 * Interpolation, 1981, a = -.5), averaged over sub-positions where the map shrinks. Samples outside the source are 0,
 * so colour must come premultiplied. A shift by whole pixels returns the source's values unchanged.
 */
export function resampleAffine(
  source: Planes,
  sourceAt: { x: number; y: number },
  toTarget: Affine,
  target: Rect,
): Planes {
  const shift = wholeShift(toTarget);
  if (shift) return copyShifted(source, { x: sourceAt.x + shift.x, y: sourceAt.y + shift.y }, target);
  const back = invertAffine(toTarget);
  return resampleThrough(source, sourceAt, (x, y) => applyAffine(back, x, y), shrinkOf(toTarget), target);
}

/** Source px to a target px. */
export const shrinkOf = ({ a, b, c, d }: Affine): number => 1 / Math.sqrt(Math.abs(a * d - b * c));

/**
 * `source` carried to where `back` leads from, on the pixels of `target`: as `resampleAffine`, with `shrink` source px
 * to a target px at most. Where `back` gives no number, 0.
 */
export function resampleThrough(
  source: Planes,
  sourceAt: { x: number; y: number },
  back: (x: number, y: number) => { x: number; y: number },
  shrink: number,
  target: Rect,
): Planes {
  const { channels } = source;
  const steps = Math.max(1, Math.min(8, Math.ceil(shrink - 0.01)));
  const data = new Float32Array(target.width * target.height * channels);
  const sample = new Float32Array(channels);
  for (let y = 0; y < target.height; y++) {
    for (let x = 0; x < target.width; x++) {
      sample.fill(0);
      for (let v = 0; v < steps; v++) {
        for (let u = 0; u < steps; u++) {
          const at = back(target.x + x + (u + 0.5) / steps, target.y + y + (v + 0.5) / steps);
          if (!Number.isNaN(at.x)) addBicubic(source, at.x - sourceAt.x, at.y - sourceAt.y, sample);
        }
      }
      const to = (y * target.width + x) * channels;
      for (let c = 0; c < channels; c++) data[to + c] = sample[c]! / (steps * steps);
    }
  }
  return { width: target.width, height: target.height, channels, data };
}

function copyShifted(source: Planes, at: { x: number; y: number }, target: Rect): Planes {
  const { width, height, channels } = source;
  const data = new Float32Array(target.width * target.height * channels);
  const common = intersect(target, { ...at, width, height });
  for (let y = common.y; y < common.y + common.height; y++) {
    const from = ((y - at.y) * width + common.x - at.x) * channels;
    const to = ((y - target.y) * target.width + common.x - target.x) * channels;
    data.set(source.data.subarray(from, from + common.width * channels), to);
  }
  return { width: target.width, height: target.height, channels, data };
}

function addBicubic({ width, height, channels, data }: Planes, x: number, y: number, sum: Float32Array): void {
  const x0 = Math.floor(x - 0.5);
  const y0 = Math.floor(y - 0.5);
  const fx = x - 0.5 - x0;
  const fy = y - 0.5 - y0;
  if (x0 < -2 || y0 < -2 || x0 > width || y0 > height) return;
  for (let k = 0; k < TAPS; k++) across[k] = cubicWeight(k - 1 - fx);
  for (let v = 0; v < TAPS; v++) {
    const row = y0 + v - 1;
    const down = cubicWeight(v - 1 - fy);
    if (row < 0 || row >= height || down === 0) continue;
    for (let u = 0; u < TAPS; u++) {
      const column = x0 + u - 1;
      const w = down * across[u]!;
      if (column < 0 || column >= width || w === 0) continue;
      const at = (row * width + column) * channels;
      for (let c = 0; c < channels; c++) sum[c]! += w * data[at + c]!;
    }
  }
}

const TAPS = 4;
const across = new Float64Array(TAPS);

/** Keys' kernel for a = -.5. The tiny dead zone makes whole-pixel shifts exact. */
export function cubicWeight(t: number): number {
  const d = Math.abs(t);
  if (d < 1e-9) return 1;
  if (d > 2 - 1e-9 || Math.abs(d - 1) < 1e-9) return 0;
  return d < 1 ? (1.5 * d - 2.5) * d * d + 1 : ((-0.5 * d + 2.5) * d - 4) * d + 2;
}
