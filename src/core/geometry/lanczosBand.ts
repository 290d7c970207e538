/** The kernel reaches so many source px to each side. */
export const REACH = 3;
const TAPS = 2 * REACH;
/** Kernel weights are looked up at this many positions a px. */
export const PHASES = 1024;
/** Target pixels a band. */
export const BAND_SAMPLED = 1024;

/** Opaque target pixels to be sampled from a window of the source. Every kernel's reach lies inside the window. */
export interface SampledPixels {
  /** RGBA, `windowWidth` px a row. */
  window: Uint8Array;
  windowWidth: number;
  /** x, y of each sample in px of the window, the samples of a pixel one after the other. */
  positions: Float32Array;
  samplesPerPixel: number;
  pixels: number;
  /** As `lanczosWeights` gives them. */
  weights: Float32Array;
  /** RGBA of each pixel. */
  out: Uint8Array;
}

/** Samples a band of pixels: the mean over each pixel's samples of the source under the kernel, in single precision. */
export function resampleBand(work: SampledPixels, band: number): void {
  const { window, windowWidth, positions, samplesPerPixel, weights, out } = work;
  const round = Math.fround;
  const end = Math.min(work.pixels, (band + 1) * BAND_SAMPLED);
  for (let pixel = band * BAND_SAMPLED; pixel < end; pixel++) {
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (let k = pixel * samplesPerPixel; k < (pixel + 1) * samplesPerPixel; k++) {
        const x = round(positions[2 * k]! - 0.5);
        const y = round(positions[2 * k + 1]! - 0.5);
        const [x0, y0] = [Math.floor(x), Math.floor(y)];
        const wx = TAPS * Math.floor(round(round(round(x - x0) * PHASES) + 0.5));
        const wy = TAPS * Math.floor(round(round(round(y - y0) * PHASES) + 0.5));
        for (let v = 0; v < TAPS; v++) {
          let row = 0;
          const at = 4 * ((y0 + v - REACH + 1) * windowWidth + x0 - REACH + 1) + c;
          for (let u = 0; u < TAPS; u++) row = round(row + round(weights[wx + u]! * window[at + 4 * u]!));
          sum = round(sum + round(weights[wy + v]! * row));
        }
      }
      out[4 * pixel + c] = Math.max(0, Math.min(255, Math.floor(round(round(sum / samplesPerPixel) + 0.5))));
    }
    out[4 * pixel + 3] = 255;
  }
}

/** Weights of the six neighbours, each set made to sum to 1, for every phase from 0 to PHASES. */
export function lanczosWeights(): Float32Array {
  const weights = new Float32Array((PHASES + 1) * TAPS);
  for (let phase = 0; phase <= PHASES; phase++) {
    let sum = 0;
    for (let k = 0; k < TAPS; k++) sum += lanczos(k - REACH + 1 - phase / PHASES);
    for (let k = 0; k < TAPS; k++) weights[phase * TAPS + k] = lanczos(k - REACH + 1 - phase / PHASES) / sum;
  }
  return weights;
}

function lanczos(t: number): number {
  if (Math.abs(t) < 1e-9) return 1;
  // Exactly nothing at whole px: then rows that add nothing can be left out.
  if (Math.abs(t) >= REACH || Math.abs(t - Math.round(t)) < 1e-9) return 0;
  const p = Math.PI * t;
  return (REACH * Math.sin(p) * Math.sin(p / REACH)) / (p * p);
}
