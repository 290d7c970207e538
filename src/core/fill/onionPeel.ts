import type { Kernels } from '../kernels/kernels.ts';
import { emptyCorrespondence, type Correspondence } from './correspondence.ts';
import { PATCH_RADIUS, type Level } from './level.ts';

const DONORS_SAMPLED = 1200;

/**
 * A first filling of the coarsest level, from the rim inward, layer by layer: each pixel of a layer is matched, on the
 * pixels known or already filled, against an even sample of 1200 donors and then those around the best and around its
 * neighbours' matches; then the layer is the mean of what those donors bring along. Writes the hole's bytes in `level.features` and returns the correspondence it
 * found. Unlike a smooth membrane this starts from real texture (A. Newson et al.: Video Inpainting of Complex
 * Scenes, SIAM J. Imaging Sciences, 2014).
 */
export function peelHole(level: Level, kernels: Kernels): Correspondence {
  const { width, height, hole } = level;
  const field = emptyCorrespondence(level, kernels.scratch);
  const matched = new Uint8Array(width * height);
  const known = Uint8Array.from(hole, (h) => 1 - h);
  const order = Array.from(level.holePixels).sort((a, b) => level.depth[a]! - level.depth[b]! || a - b);
  const search = {
    level,
    field,
    matched,
    known,
    stride: Math.max(1, Math.floor(level.donors.length / DONORS_SAMPLED)),
  };
  for (let start = 0; start < order.length;) {
    let end = start;
    while (end < order.length && level.depth[order[end]!] === level.depth[order[start]!]) end++;
    const layer = order.slice(start, end);
    for (const pixel of layer) {
      const target = clampToPatchCentre(pixel, width, height);
      if (matched[target]) continue;
      field.donor[target] = bestOnKnown(search, target);
      matched[target] = 1;
    }
    for (const pixel of layer) averageFrom(level, field, matched, pixel);
    for (const pixel of layer) known[pixel] = 1;
    start = end;
  }
  for (const target of level.targets) {
    if (!matched[target]) field.donor[target] = bestOnKnown(search, target);
  }
  kernels.measureCosts(level, field);
  return field;
}

function clampToPatchCentre(pixel: number, width: number, height: number): number {
  const x = pixel % width;
  const y = (pixel - x) / width;
  const cx = Math.max(PATCH_RADIUS, Math.min(width - 1 - PATCH_RADIUS, x));
  const cy = Math.max(PATCH_RADIUS, Math.min(height - 1 - PATCH_RADIUS, y));
  return cy * width + cx;
}

interface PeelSearch {
  level: Level;
  field: Correspondence;
  matched: Uint8Array;
  known: Uint8Array;
  stride: number;
}

function bestOnKnown({ level, field, matched, known, stride }: PeelSearch, target: number): number {
  const { width, height, features, donors, isDonor } = level;
  const offsets: number[] = [];
  for (let v = -PATCH_RADIUS; v <= PATCH_RADIUS; v++) {
    for (let u = -PATCH_RADIUS; u <= PATCH_RADIUS; u++) if (known[target + v * width + u]) offsets.push(v * width + u);
  }
  let best = donors[0]!;
  let bestCost = Infinity;
  const attempt = (donor: number): void => {
    let cost = 0;
    for (let k = 0; k < offsets.length; k++) {
      const i = (target + offsets[k]!) * 4;
      const j = (donor + offsets[k]!) * 4;
      const d0 = features[i]! - features[j]!;
      const d1 = features[i + 1]! - features[j + 1]!;
      const d2 = features[i + 2]! - features[j + 2]!;
      const d3 = features[i + 3]! - features[j + 3]!;
      cost += d0 * d0 + d1 * d1 + d2 * d2 + d3 * d3;
      if (cost >= bestCost) return;
    }
    bestCost = cost;
    best = donor;
  };
  for (let v = -PATCH_RADIUS; v <= PATCH_RADIUS; v++) {
    for (let u = -PATCH_RADIUS; u <= PATCH_RADIUS; u++) {
      const neighbour = target + v * width + u;
      if (!matched[neighbour]) continue;
      const shifted = field.donor[neighbour]! - v * width - u;
      if (isDonor[shifted]) attempt(shifted);
    }
  }
  for (let k = 0; k < donors.length; k += stride) attempt(donors[k]!);
  for (let reach = 3; reach >= 1; reach--) {
    const centre = best;
    for (let v = -reach; v <= reach; v++) {
      for (let u = -reach; u <= reach; u++) {
        const candidate = centre + v * width + u;
        if (candidate >= 0 && candidate < width * height && isDonor[candidate]) attempt(candidate);
      }
    }
  }
  return best;
}

function averageFrom(level: Level, field: Correspondence, matched: Uint8Array, pixel: number): void {
  const { width, height, features } = level;
  const x = pixel % width;
  const y = (pixel - x) / width;
  const sum = [0, 0, 0, 0];
  let total = 0;
  for (let v = Math.max(0, y - PATCH_RADIUS); v <= Math.min(height - 1, y + PATCH_RADIUS); v++) {
    for (let u = Math.max(0, x - PATCH_RADIUS); u <= Math.min(width - 1, x + PATCH_RADIUS); u++) {
      const centre = v * width + u;
      if (!matched[centre]) continue;
      const source = (field.donor[centre]! + pixel - centre) * 4;
      for (let c = 0; c < 4; c++) sum[c]! += features[source + c]!;
      total++;
    }
  }
  if (total) for (let c = 0; c < 4; c++) features[4 * pixel + c] = Math.round(sum[c]! / total);
}
