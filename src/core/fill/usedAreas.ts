import type { Size } from '../image/rect.ts';
import { bytesBy } from '../numeric/filled.ts';
import type { Part } from './parts.ts';
import type { Sources } from './sources.ts';

/** Squares of a region, row by row, `side` px each: 1 where pixels were copied from. */
export interface UsedAreas {
  side: number;
  width: number;
  height: number;
  cells: Uint8Array;
}

/** How many of the pixels looked at come from each of the same squares. */
export interface SourceUses extends Omit<UsedAreas, 'cells'> {
  counts: Int32Array;
}

const CELLS_ALONG = 160;
/** What a square gives when it is copied this many times over is no repeat yet: where pieces meet they overlap. */
const USED_ONCE = 1.6;

/** Nothing used yet, on squares that divide the longer side of a region into at most 160. */
export function noUses(size: Size): SourceUses {
  const side = Math.max(4, Math.ceil(Math.max(size.width, size.height) / CELLS_ALONG));
  const width = Math.ceil(size.width / side);
  const height = Math.ceil(size.height / side);
  return { side, width, height, counts: new Int32Array(width * height) };
}

/** Every so many pixels, across and down, are looked at. */
const stepIn = (side: number): number => Math.max(1, side >> 1);

/** Counts into `out` where the pixels of a part come from. */
export function countUses(out: SourceUses, { region, pixelsOf, box }: Part, sources: Sources): void {
  const step = stepIn(out.side);
  for (let y = box.y; y < box.y + box.height; y += step) {
    for (let x = box.x; x < box.x + box.width; x += step) {
      if (!pixelsOf[y * region.width + x]) continue;
      const from = sources.sourceOf(x, y);
      const column = Math.floor((region.x + from.x) / out.side);
      const row = Math.floor((region.y + from.y) / out.side);
      if (column >= 0 && row >= 0 && column < out.width && row < out.height) out.counts[row * out.width + column]!++;
    }
  }
}

export const usedAreas = ({ side, width, height, counts }: SourceUses): UsedAreas => ({
  side,
  width,
  height,
  cells: bytesBy(counts.length, (i) => (counts[i]! > 0 ? 1 : 0)),
});

/** The share of what was copied, 0 to 1, that repeats what comes from the same square already. */
export function repeatShare({ side, counts }: SourceUses): number {
  const once = USED_ONCE * (side / stepIn(side)) ** 2;
  let repeated = 0;
  let copied = 0;
  for (const count of counts) {
    repeated += Math.max(0, count - once);
    copied += count;
  }
  return repeated / Math.max(1, copied);
}
