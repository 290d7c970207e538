import type { Kernels } from '../kernels/kernels.ts';
import type { Correspondence } from './correspondence.ts';
import { PATCH_RADIUS, type Level } from './level.ts';
import { clampToPatchCentre, matchLayer, startPeel } from './onionPeel.ts';

/** What the strength of a line counts where there is none, in luma levels: flat places are filled by confidence alone. */
const FLAT_STRENGTH = 1;

/**
 * A first filling of the coarsest level, strongest lines first: of the pixels at the rim of what is not known yet, the
 * one with the highest product of confidence and line strength is matched on the known pixels of its patch, and the
 * rest of the patch is copied from the donor. Writes the hole's bytes in `level.features` and returns the
 * correspondence found. A. Criminisi, P. Perez, K. Toyama: Region Filling and Object Removal by Exemplar-Based Image
 * Inpainting, IEEE Transactions on Image Processing, 2004.
 */
export function continueLines(level: Level, kernels: Kernels): Correspondence {
  const { width, height, features, holePixels } = level;
  const peel = startPeel(level, kernels);
  const { known } = peel;
  const confidence = new Float32Array(known);
  let left = holePixels.length;
  while (left > 0) {
    const pixel = mostUrgent(level, known, confidence);
    const centre = clampToPatchCentre(pixel, width, height);
    peel.layer[0] = centre;
    kernels.peel(level, peel, 1);
    const donor = peel.found[0]!;
    const trust = patchMean(confidence, width, centre);
    visitPatch(width, centre, (i) => {
      if (known[i]) return;
      const from = i + donor - centre;
      for (let c = 0; c < 4; c++) features[4 * i + c] = features[4 * from + c]!;
      confidence[i] = trust;
      known[i] = 1;
      left--;
    });
  }
  matchLayer(level, peel, level.targets, kernels);
  kernels.measureCosts(level, peel.field);
  return peel.field;
}

function mostUrgent(level: Level, known: Uint8Array, confidence: Float32Array): number {
  const { width, height } = level;
  let best = -1;
  let highest = -1;
  for (const pixel of level.holePixels) {
    if (known[pixel]) continue;
    const x = pixel % width;
    const y = (pixel - x) / width;
    const left = x > 0 && known[pixel - 1] ? 1 : 0;
    const right = x + 1 < width && known[pixel + 1] ? 1 : 0;
    const above = y > 0 && known[pixel - width] ? 1 : 0;
    const below = y + 1 < height && known[pixel + width] ? 1 : 0;
    if (left + right + above + below === 0) continue;
    const centre = clampToPatchCentre(pixel, width, height);
    const [nx, ny] = [right - left, below - above];
    const length = Math.hypot(nx, ny);
    const strength = length === 0 ? 0 : lineAcross(level, known, centre, nx / length, ny / length);
    const urgency = patchMean(confidence, width, centre) * (FLAT_STRENGTH + strength);
    if (urgency > highest) {
      highest = urgency;
      best = pixel;
    }
  }
  return best;
}

/** The strongest edge in the known part of the patch, as far as it runs along the given normal of the rim. */
function lineAcross({ width, features }: Level, known: Uint8Array, centre: number, nx: number, ny: number): number {
  let strongest = 0;
  let along = 0;
  const luma = (i: number): number => features[4 * i]!;
  for (let v = -PATCH_RADIUS + 1; v < PATCH_RADIUS; v++) {
    for (let u = -PATCH_RADIUS + 1; u < PATCH_RADIUS; u++) {
      const i = centre + v * width + u;
      if (!known[i] || !known[i - 1] || !known[i + 1] || !known[i - width] || !known[i + width]) continue;
      const gx = (luma(i + 1) - luma(i - 1)) / 2;
      const gy = (luma(i + width) - luma(i - width)) / 2;
      const strength = gx * gx + gy * gy;
      if (strength <= strongest) continue;
      strongest = strength;
      along = Math.abs(gx * ny - gy * nx);
    }
  }
  return along;
}

function patchMean(values: Float32Array, width: number, centre: number): number {
  let sum = 0;
  visitPatch(width, centre, (i) => (sum += values[i]!));
  return sum / (2 * PATCH_RADIUS + 1) ** 2;
}

function visitPatch(width: number, centre: number, visit: (i: number) => void): void {
  for (let v = -PATCH_RADIUS; v <= PATCH_RADIUS; v++) {
    for (let u = -PATCH_RADIUS; u <= PATCH_RADIUS; u++) visit(centre + v * width + u);
  }
}
