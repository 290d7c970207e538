import { BAND_PIXELS } from '../kernels/bands.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { expNegative } from '../numeric/expNegative.ts';
import type { Correspondence } from './correspondence.ts';
import { PATCH_RADIUS, type Level } from './level.ts';

const COST_BINS = 4096;
/** So that no pixel is without any. */
const MIN_WEIGHT = 1e-12;

/**
 * Rebuilds the hole's feature bytes in place (`level.features`) as the weighted mean of what all patches over a pixel
 * bring along; a patch counts exp(-cost / (2 sigma^2)) x 1.15^(-depth of its centre in the hole), sigma^2 being the
 * 75th percentile of all costs times `narrowing`. Y. Wexler, E. Shechtman, M. Irani: Space-Time Completion of Video,
 * PAMI, 2007.
 */
export function voteHole(level: Level, field: Correspondence, narrowing: number, kernels: Kernels): void {
  kernels.vote(level, field, 1 / (2 * Math.max(1, upperQuartile(level, field) * narrowing)));
}

/** Writes what a band of targets counts into `level.weight`, at their centres; `perCost` is 1 / (2 sigma^2). */
export function weighBand(
  { targets, falloff, weight }: Level,
  { cost }: Correspondence,
  perCost: number,
  band: number,
): void {
  const end = Math.min(targets.length, (band + 1) * BAND_PIXELS);
  for (let k = band * BAND_PIXELS; k < end; k++) {
    const target = targets[k]!;
    weight[target] = Math.max(MIN_WEIGHT, expNegative(cost[target]! * perCost) * falloff[k]!);
  }
}

/** Writes what a band of hole pixels becomes into `level.next`: a gather, so that bands do not depend on each other. */
export function voteBand(level: Level, field: Correspondence, band: number): void {
  const { width, height, features, holePixels, next, weight } = level;
  const { donor } = field;
  const end = Math.min(holePixels.length, (band + 1) * BAND_PIXELS);
  const sum = new Float32Array(4);
  const total = new Float32Array(1);
  for (let k = band * BAND_PIXELS; k < end; k++) {
    const pixel = holePixels[k]!;
    const x = pixel % width;
    const y = (pixel - x) / width;
    sum.fill(0);
    total[0] = 0;
    for (let v = Math.max(0, y - PATCH_RADIUS); v <= Math.min(height - 1, y + PATCH_RADIUS); v++) {
      for (let u = Math.max(0, x - PATCH_RADIUS); u <= Math.min(width - 1, x + PATCH_RADIUS); u++) {
        const centre = v * width + u;
        const w = weight[centre]!;
        if (w === 0) continue;
        const source = (donor[centre]! + pixel - centre) * 4;
        for (let c = 0; c < 4; c++) sum[c]! += Math.fround(w * features[source + c]!);
        total[0]! += w;
      }
    }
    for (let c = 0; c < 4; c++) {
      next[4 * k + c] = Math.trunc(Math.fround(Math.fround(sum[c]! / total[0]!) + 0.5));
    }
  }
}

/** Writes a band's new bytes into the features. */
export function settleBand({ features, holePixels, next }: Level, band: number): void {
  const end = Math.min(holePixels.length, (band + 1) * BAND_PIXELS);
  for (let k = band * BAND_PIXELS; k < end; k++) {
    for (let c = 0; c < 4; c++) features[4 * holePixels[k]! + c] = next[4 * k + c]!;
  }
}

/** The 75th percentile of the targets' costs, to a 4096th of the highest. */
export function upperQuartile({ targets }: Level, { cost }: Correspondence): number {
  let highest = 1;
  for (let k = 0; k < targets.length; k++) highest = Math.max(highest, cost[targets[k]!]!);
  const bins = new Int32Array(COST_BINS + 1);
  const scale = COST_BINS / highest;
  for (let k = 0; k < targets.length; k++) bins[Math.floor(cost[targets[k]!]! * scale)]!++;
  let below = 0;
  for (let bin = 0; bin <= COST_BINS; bin++) {
    below += bins[bin]!;
    if (below >= 0.75 * targets.length) return (bin + 0.5) / scale;
  }
  return highest;
}
