import { lumaAt } from '../image/luma.ts';
import type { CopiedPart } from './seamSystem.ts';

/** How much of what is seen to change from pixel to pixel in a rebuilt place is seams. */
export interface SeamMeasures {
  /** 0 = none of it, 1 = all. */
  seamError: number;
}

/** Sums over neighbouring pixels, in levels of luma. */
export interface SeamSums {
  /** Steps across seams beyond what both sides' own surroundings would show there. */
  excess: number;
  /** All steps. */
  variation: number;
}

/**
 * Looks at every two neighbours of which at least one was copied into the part. Where they come from different places, a
 * step that neither of the places has between the same two pixels is a visible seam. `made` is RGBA of the part's box,
 * seams closed.
 */
export function measureSeams({ image, unknown, part, box, sources }: CopiedPart, made: Uint8ClampedArray): SeamSums {
  const { width, data } = image;
  const sums = { excess: 0, variation: 0 };
  const [here, there] = [new Float32Array(3), new Float32Array(3)];
  /** The step that the place a group is copied from has between two pixels; undefined where it can't be told. */
  const sourceStep = (group: number, x: number, y: number, u: number, v: number): number | undefined =>
    sources.sample(group, x, y, here) && sources.sample(group, u, v, there)
      ? lumaAt(there, 0) - lumaAt(here, 0)
      : undefined;
  const shownAt = (x: number, y: number): number =>
    part[y * width + x] ? lumaAt(made, 4 * ((y - box.y) * box.width + x - box.x)) : lumaAt(data, 4 * (y * width + x));
  const compare = (x: number, y: number, u: number, v: number): void => {
    const isOwn = part[y * width + x] !== 0;
    const isOther = part[v * width + u] !== 0;
    if (!isOwn && !isOther) return;
    // What is not known yet, and not of this part, is compared when it is there.
    if ((!isOwn && unknown[y * width + x]) || (!isOther && unknown[v * width + u])) return;
    const step = shownAt(u, v) - shownAt(x, y);
    sums.variation += Math.abs(step);
    const own = isOwn ? sources.groupAt(x, y) : undefined;
    const other = isOther ? sources.groupAt(u, v) : undefined;
    if (own === other) return;
    let excess = Infinity;
    for (const group of [own, other]) {
      const natural = group === undefined ? undefined : sourceStep(group, x, y, u, v);
      if (natural !== undefined) excess = Math.min(excess, Math.abs(step - natural));
    }
    if (Number.isFinite(excess)) sums.excess += excess;
  };
  const left = Math.max(0, box.x - 1);
  const top = Math.max(0, box.y - 1);
  for (let y = top; y < box.y + box.height; y++) {
    for (let x = left; x < box.x + box.width; x++) {
      if (x + 1 < width) compare(x, y, x + 1, y);
      if (y + 1 < image.height) compare(x, y, x, y + 1);
    }
  }
  return sums;
}

/** The share of seams in a place that was rebuilt in parts. */
export function seamErrorOf(parts: readonly SeamSums[]): SeamMeasures {
  const excess = parts.reduce((sum, part) => sum + part.excess, 0);
  const variation = parts.reduce((sum, part) => sum + part.variation, 0);
  return { seamError: variation > 0 ? Math.min(1, excess / variation) : 0 };
}
