import { lumaAt } from '../image/luma.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import { BAND_ROWS, bandCount } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { CopiedPart } from './copiedPart.ts';
import type { Sources } from './sources.ts';
import { wholeSources } from './wholeSources.ts';

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
export function measureSeams(copied: CopiedPart, made: Uint8ClampedArray, kernels: Kernels): SeamSums {
  const giveBack = kernels.scratch.hold();
  const window = intersect(inflate(copied.box, 1), wholeOf(copied.image));
  const stride = Math.ceil((window.width * window.height) / PIXELS_LOOKED_AT);
  const bands = bandCount(Math.ceil(window.height / stride), BAND_ROWS);
  const sums = kernels.scratch.doubles(2 * bands);
  kernels.inBands(SEAM_SUMS, { copied, made, window, stride, sums }, bands);
  const total = { excess: 0, variation: 0 };
  for (let band = 0; band < bands; band++) {
    total.excess += sums[2 * band]!;
    total.variation += sums[2 * band + 1]!;
  }
  giveBack();
  return total;
}

interface SeamSumsWork {
  copied: CopiedPart;
  made: Uint8ClampedArray;
  window: Rect;
  /** Every so-manyth row is looked at. */
  stride: number;
  /** Excess and variation of each band. */
  sums: Float64Array;
}

/** Looks at some of the window's rows. */
function seamSumsBand(work: SeamSumsWork, band: number): void {
  const { copied, made, window, stride } = work;
  const sources = wholeSources(copied.sources);
  const right = window.x + window.width - 1;
  const bottom = window.y + window.height - 1;
  const sums = { excess: 0, variation: 0 };
  const row = rowOf(window.width);
  const below = rowOf(window.width);
  const end = Math.min(bottom + 1, window.y + stride * BAND_ROWS * (band + 1));
  for (let y = window.y + stride * BAND_ROWS * band; y < end; y += stride) {
    readRow(copied, made, window.x, y, row);
    if (y < bottom) readRow(copied, made, window.x, y + 1, below);
    for (let i = 0; i < window.width; i++) {
      const x = window.x + i;
      if (x < right) compare(sources, row, i, x, y, row, i + 1, x + 1, y, sums);
      if (y < bottom) compare(sources, row, i, x, y, below, i, x, y + 1, sums);
    }
  }
  work.sums.set([sums.excess, sums.variation], 2 * band);
}

export const SEAM_SUMS: BandWork<SeamSumsWork> = { name: 'seamSums', band: seamSumsBand };

/** Pixel (x, y), `i`-th of its row, beside (u, v), `j`-th of its. */
function compare(
  sources: Sources,
  row: Row,
  i: number,
  x: number,
  y: number,
  other: Row,
  j: number,
  u: number,
  v: number,
  sums: SeamSums,
): void {
  const [a, b] = [row.groups[i]!, other.groups[j]!];
  if (a >= KNOWN && b >= KNOWN) return;
  // What is not known yet, and not of this part, is compared when it is there.
  if (a === UNKNOWN || b === UNKNOWN) return;
  const step = other.luma[j]! - row.luma[i]!;
  sums.variation += Math.abs(step);
  if (a === b) return;
  const excess = Math.min(beyond(sources, step, a, x, y, u, v), beyond(sources, step, b, x, y, u, v));
  if (Number.isFinite(excess)) sums.excess += excess;
}

/** How far a step is from that which the place a group is copied from has between the same pixels. */
function beyond(sources: Sources, step: number, group: number, x: number, y: number, u: number, v: number): number {
  if (group >= KNOWN || !sources.sample(group, x, y, here) || !sources.sample(group, u, v, there)) return Infinity;
  return Math.abs(step - lumaAt(there, 0) + lumaAt(here, 0));
}

const here = new Float32Array(3);
const there = new Float32Array(3);

/** In place of a group, above all of them: known, or not known yet. */
const KNOWN = Number.MAX_VALUE;
const UNKNOWN = Infinity;

/** What a row of pixels shows, and with which group each was copied. */
interface Row {
  luma: Float32Array;
  groups: Float64Array;
}

const rowOf = (length: number): Row => ({ luma: new Float32Array(length), groups: new Float64Array(length) });

/** Reads the pixels from (x, y) on into `out`. */
function readRow(
  { image, unknown, part, box, groups }: CopiedPart,
  made: Uint8ClampedArray,
  x: number,
  y: number,
  out: Row,
): void {
  const start = y * image.width + x;
  const boxStart = (y - box.y) * box.width + x - box.x;
  for (let i = 0; i < out.luma.length; i++) {
    const isPart = part[start + i] !== 0;
    out.luma[i] = isPart ? lumaAt(made, 4 * (boxStart + i)) : lumaAt(image.data, 4 * (start + i));
    out.groups[i] = isPart ? groups[boxStart + i]! : unknown[start + i] ? UNKNOWN : KNOWN;
  }
}

/** The share of seams in a place that was rebuilt in parts. */
export function seamErrorOf(parts: readonly SeamSums[]): SeamMeasures {
  const excess = parts.reduce((sum, part) => sum + part.excess, 0);
  const variation = parts.reduce((sum, part) => sum + part.variation, 0);
  return { seamError: variation > 0 ? Math.min(1, excess / variation) : 0 };
}
