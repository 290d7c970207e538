import type { Correspondence } from './correspondence.ts';
import type { Level } from './level.ts';

/** For each work cell where its full-resolution pixels are copied from. */
export interface CellShifts {
  /** Cells across and down. */
  width: number;
  height: number;
  /** Photo pixels a cell is wide and high. */
  factor: number;
  /** What is added to a pixel's coordinates to get its source's; 0 outside the hole. */
  dx: Int32Array;
  dy: Int32Array;
}

/** Shifts of squares from a place of the photo on. */
export interface SquareShifts extends CellShifts {
  /** Photo pixels left of the first square, and above it. */
  left: number;
  top: number;
}

/**
 * One source per cell of the hole: that of the cheapest target patch within one cell, so that neighbouring pixels tend
 * to be copied together; shifts in cells. Sources are usable, because donors are whole patches.
 */
export function cheapestSources(level: Level, field: Correspondence): CellShifts {
  const { width, height, holePixels } = level;
  const dx = new Int32Array(width * height);
  const dy = new Int32Array(width * height);
  for (const pixel of holePixels) {
    const x = pixel % width;
    const centre = cheapestCentre(level, field, x, (pixel - x) / width);
    const donor = field.donor[centre]!;
    const u = donor % width;
    const cx = centre % width;
    dx[pixel] = u - cx;
    dy[pixel] = (donor - u) / width - (centre - cx) / width;
  }
  return { width, height, factor: 1, dx, dy };
}

function cheapestCentre(level: Level, field: Correspondence, x: number, y: number): number {
  const { width, height, isTarget } = level;
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
