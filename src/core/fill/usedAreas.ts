import type { Size } from '../image/rect.ts';
import type { Part } from './parts.ts';
import type { Sources } from './sources.ts';

/** Squares of a region, row by row, `side` px each: 1 where pixels were copied from. */
export interface UsedAreas {
  side: number;
  width: number;
  height: number;
  cells: Uint8Array;
}

const CELLS_ALONG = 160;

/** Nothing used yet, on squares that divide the longer side of a region into at most 160. */
export function noAreas(size: Size): UsedAreas {
  const side = Math.max(4, Math.ceil(Math.max(size.width, size.height) / CELLS_ALONG));
  const width = Math.ceil(size.width / side);
  const height = Math.ceil(size.height / side);
  return { side, width, height, cells: new Uint8Array(width * height) };
}

/** Writes into `out` where the pixels of a part come from, looking at every few pixels. */
export function addUsedAreas(out: UsedAreas, { pixelsOf, box }: Part, sources: Sources, regionWidth: number): void {
  const step = Math.max(1, out.side >> 1);
  for (let y = box.y; y < box.y + box.height; y += step) {
    for (let x = box.x; x < box.x + box.width; x += step) {
      if (!pixelsOf[y * regionWidth + x]) continue;
      const from = sources.sourceOf(x, y);
      const column = Math.floor(from.x / out.side);
      const row = Math.floor(from.y / out.side);
      if (column >= 0 && row >= 0 && column < out.width && row < out.height) out.cells[row * out.width + column] = 1;
    }
  }
}
