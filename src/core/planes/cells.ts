import type { Hole } from '../mask/byteMasks.ts';
/** Side of the squares, in work px, on which the support of planes is counted. */
export const CELL_PX = 12;
/** Edges per cell side from which on a cell belongs to a direction. */
export const AMONG_DENSITY = 0.04;

/** A picture in squares of `CELL_PX`, row by row. */
export interface Cells {
  width: number;
  height: number;
  /** 1 where a cell's middle lies outside the hole. */
  known: Uint8Array;
}

/** The squares of a picture with a hole (one byte a px, non-zero = hole). */
export function cellsOf({ width, height, hole }: { width: number; height: number; hole: Hole }): Cells {
  const cells = { width: Math.ceil(width / CELL_PX), height: Math.ceil(height / CELL_PX) };
  const known = new Uint8Array(cells.width * cells.height);
  for (let cell = 0; cell < known.length; cell++) {
    const x = Math.min(width - 1, ((cell % cells.width) + 0.5) * CELL_PX);
    const y = Math.min(height - 1, (Math.floor(cell / cells.width) + 0.5) * CELL_PX);
    known[cell] = hole[Math.floor(y) * width + Math.floor(x)] ? 0 : 1;
  }
  return { ...cells, known };
}
