import { lumaAt } from '../image/luma.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import type { CopiedPart } from './seamSystem.ts';

/** How much of what is seen to change from pixel to pixel in a rebuilt place is seams. */
export interface SeamMeasures {
  /** 0 = none of it, 1 = all. */
  seamError: number;
}

/** About so many pixels of a place are looked at, in rows spread evenly. */
const PIXELS_LOOKED_AT = 40_000;

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
export function measureSeams(copied: CopiedPart, made: Uint8ClampedArray): SeamSums {
  const { image, sources } = copied;
  const window = intersect(inflate(copied.box, 1), wholeOf(image));
  const stride = Math.ceil((window.width * window.height) / PIXELS_LOOKED_AT);
  const { luma, groups } = shownIn(window, copied, made, stride);
  const [here, there] = [new Float32Array(3), new Float32Array(3)];
  /** How far a step is from that which the place a group is copied from has between the same pixels. */
  const beyond = (step: number, group: number, x: number, y: number, u: number, v: number): number =>
    group >= KNOWN || !sources.sample(group, x, y, here) || !sources.sample(group, u, v, there)
      ? Infinity
      : Math.abs(step - lumaAt(there, 0) + lumaAt(here, 0));
  const sums = { excess: 0, variation: 0 };
  const compare = (i: number, j: number, x: number, y: number, u: number, v: number): void => {
    const [own, other] = [groups[i]!, groups[j]!];
    if (own >= KNOWN && other >= KNOWN) return;
    // What is not known yet, and not of this part, is compared when it is there.
    if (own === UNKNOWN || other === UNKNOWN) return;
    const step = luma[j]! - luma[i]!;
    sums.variation += Math.abs(step);
    if (own === other) return;
    const excess = Math.min(beyond(step, own, x, y, u, v), beyond(step, other, x, y, u, v));
    if (Number.isFinite(excess)) sums.excess += excess;
  };
  for (let y = 0; y < window.height; y += stride) {
    for (let x = 0; x < window.width; x++) {
      const i = y * window.width + x;
      const [px, py] = [x + window.x, y + window.y];
      if (x + 1 < window.width) compare(i, i + 1, px, py, px + 1, py);
      if (y + 1 < window.height) compare(i, i + window.width, px, py, px, py + 1);
    }
  }
  return sums;
}

/** In place of a group, above all of them: known, or not known yet. */
const KNOWN = Number.MAX_VALUE;
const UNKNOWN = Infinity;

/** Luma and group of the pixels of a window, in one of `stride` rows and the row below it. */
function shownIn(
  window: Rect,
  { image, unknown, part, box, groups: ofBox }: CopiedPart,
  made: Uint8ClampedArray,
  stride: number,
): { luma: Float32Array; groups: Float64Array } {
  const luma = new Float32Array(window.width * window.height);
  const groups = new Float64Array(window.width * window.height).fill(KNOWN);
  for (let y = 0; y < window.height; y++) {
    if (y % stride > 1) continue;
    const row = (y + window.y) * image.width + window.x;
    const boxRow = (y + window.y - box.y) * box.width + window.x - box.x;
    for (let x = 0; x < window.width; x++) {
      const i = y * window.width + x;
      if (part[row + x]) {
        luma[i] = lumaAt(made, 4 * (boxRow + x));
        groups[i] = ofBox[boxRow + x]!;
      } else {
        luma[i] = lumaAt(image.data, 4 * (row + x));
        if (unknown[row + x]) groups[i] = UNKNOWN;
      }
    }
  }
  return { luma, groups };
}

/** The share of seams in a place that was rebuilt in parts. */
export function seamErrorOf(parts: readonly SeamSums[]): SeamMeasures {
  const excess = parts.reduce((sum, part) => sum + part.excess, 0);
  const variation = parts.reduce((sum, part) => sum + part.variation, 0);
  return { seamError: variation > 0 ? Math.min(1, excess / variation) : 0 };
}
