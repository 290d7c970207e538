import { blurPlane } from '../image/boxBlur.ts';
import type { Rect } from '../image/rect.ts';
import type { DetailField } from './detailField.ts';

/** Side of the squares by which it is decided what a hole is drawn by, in reduced px. */
export const SIDE = 2;

/** The cells of a hole and of a band around it, row by row. */
export interface HoleCells {
  /** Where the first lies, in reduced px. */
  left: number;
  top: number;
  width: number;
  height: number;
  /** Those of the hole; and of each cell of all its number among them, or -1. */
  cells: readonly number[];
  numberOf: Int32Array;
  /** Above 0 in the hole and the band around it. */
  inBand: Float32Array;
}

/** The cells of the hole with bounds `box`, and of `band` px around it. */
export function holeCells(field: DetailField, box: Rect, band: number): HoleCells {
  const margin = band + SIDE;
  const left = Math.max(0, box.x - margin);
  const top = Math.max(0, box.y - margin);
  const width = Math.floor((Math.min(field.width, box.x + box.width + margin) - left) / SIDE);
  const height = Math.floor((Math.min(field.height, box.y + box.height + margin) - top) / SIDE);
  const numberOf = new Int32Array(width * height).fill(-1);
  const cells: number[] = [];
  for (let i = 0; i < width * height; i++) {
    const first = (top + SIDE * Math.floor(i / width)) * field.width + left + SIDE * (i % width);
    for (let k = 0; k < SIDE * SIDE; k++) {
      if (!field.hole[first + Math.floor(k / SIDE) * field.width + (k % SIDE)]) continue;
      numberOf[i] = cells.length;
      cells.push(i);
      break;
    }
  }
  const isHole = Float32Array.from(numberOf, (k) => (k < 0 ? 0 : 1));
  const inBand = blurPlane(isHole, width, height, band / SIDE, 1);
  return { left, top, width, height, cells, numberOf, inBand };
}

/** The middle of a cell, in reduced px. */
export function middleOf({ left, top, width }: HoleCells, cell: number): { x: number; y: number } {
  return { x: left + SIDE * ((cell % width) + 0.5), y: top + SIDE * (Math.floor(cell / width) + 0.5) };
}

/** The cells to the right, left, below and above, -1 where there is none. */
export function cellsBeside({ width, height }: HoleCells, cell: number): [number, number, number, number] {
  const [x, y] = [cell % width, Math.floor(cell / width)];
  return [
    x + 1 < width ? cell + 1 : -1,
    x > 0 ? cell - 1 : -1,
    y + 1 < height ? cell + width : -1,
    y > 0 ? cell - width : -1,
  ];
}
