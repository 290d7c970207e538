import type { Correspondence } from './correspondence.ts';
import { PATCH_RADIUS, type Level } from './level.ts';

const DEPTH_FALLOFF = 1.15;

/**
 * Rebuilds the hole's feature bytes in place (`level.features`) as the weighted mean of what all patches over a pixel
 * bring along; a patch counts exp(-cost / (2 sigma^2)) x 1.15^(-depth of its centre in the hole), sigma^2 being the
 * 75th percentile of all costs times `narrowing`. Y. Wexler, E. Shechtman, M. Irani: Space-Time Completion of Video,
 * PAMI, 2007. Written as a gather over hole pixels: order-free.
 */
export function voteHole(level: Level, field: Correspondence, narrowing: number): void {
  const { width, height, features, hole, isTarget } = level;
  const weight = patchWeights(level, field, narrowing);
  const next = new Uint8Array(features.length);
  for (let y = 0; y < height; y++) {
    const v0 = Math.max(0, y - PATCH_RADIUS);
    const v1 = Math.min(height - 1, y + PATCH_RADIUS);
    for (let x = 0; x < width; x++) {
      const pixel = y * width + x;
      if (!hole[pixel]) continue;
      const u0 = Math.max(0, x - PATCH_RADIUS);
      const u1 = Math.min(width - 1, x + PATCH_RADIUS);
      let sum0 = 0;
      let sum1 = 0;
      let sum2 = 0;
      let sum3 = 0;
      let total = 0;
      for (let v = v0; v <= v1; v++) {
        for (let u = u0; u <= u1; u++) {
          const centre = v * width + u;
          if (!isTarget[centre]) continue;
          const w = weight[centre]!;
          const source = (field.donor[centre]! + pixel - centre) * 4;
          sum0 += w * features[source]!;
          sum1 += w * features[source + 1]!;
          sum2 += w * features[source + 2]!;
          sum3 += w * features[source + 3]!;
          total += w;
        }
      }
      next[4 * pixel] = sum0 / total + 0.5;
      next[4 * pixel + 1] = sum1 / total + 0.5;
      next[4 * pixel + 2] = sum2 / total + 0.5;
      next[4 * pixel + 3] = sum3 / total + 0.5;
    }
  }
  for (let pixel = 0; pixel < hole.length; pixel++) {
    if (hole[pixel]) for (let c = 4 * pixel; c < 4 * pixel + 4; c++) features[c] = next[c]!;
  }
}

function patchWeights(level: Level, field: Correspondence, narrowing: number): Float32Array {
  const costs = Float64Array.from(level.targets, (target) => field.cost[target]!).sort();
  const variance = Math.max(1, costs[Math.floor(0.75 * (costs.length - 1))]! * narrowing);
  const weight = new Float32Array(level.width * level.height);
  for (const target of level.targets) {
    const fit = Math.exp(-field.cost[target]! / (2 * variance));
    weight[target] = Math.max(1e-12, fit * DEPTH_FALLOFF ** -level.depth[target]!);
  }
  return weight;
}
