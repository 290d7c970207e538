import type { Correspondence } from './correspondence.ts';
import type { Level } from './level.ts';

/** For each work pixel of the hole the offset (in work pixels) to what it is copied from; 0, 0 elsewhere. */
export interface OffsetField {
  width: number;
  height: number;
  dx: Int16Array;
  dy: Int16Array;
}

/**
 * One offset per hole pixel: that of the cheapest target patch within one pixel, so that neighbouring pixels tend to
 * be copied together. The source of every hole pixel is usable, because donors are whole patches.
 */
export function cheapestOffsets(level: Level, field: Correspondence): OffsetField {
  const { width, height, hole, isTarget } = level;
  const dx = new Int16Array(width * height);
  const dy = new Int16Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const pixel = y * width + x;
      if (!hole[pixel]) continue;
      const centre = cheapestCentre(level, field, isTarget, x, y);
      const donor = field.donor[centre]!;
      const u = donor % width;
      const cx = centre % width;
      dx[pixel] = u - cx;
      dy[pixel] = (donor - u) / width - (centre - cx) / width;
    }
  }
  return { width, height, dx, dy };
}

function cheapestCentre(level: Level, field: Correspondence, isTarget: Uint8Array, x: number, y: number): number {
  const { width, height } = level;
  for (let radius = 1; radius <= 3; radius++) {
    let best = -1;
    for (let v = Math.max(0, y - radius); v <= Math.min(height - 1, y + radius); v++) {
      for (let u = Math.max(0, x - radius); u <= Math.min(width - 1, x + radius); u++) {
        const centre = v * width + u;
        if (isTarget[centre] && (best < 0 || field.cost[centre]! < field.cost[best]!)) best = centre;
      }
    }
    if (best >= 0) return best;
  }
  return level.targets[0]!;
}
