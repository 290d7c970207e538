import { contours } from 'd3-contour';
import { translate, type Rect, type Size } from '../../core/image/rect.ts';
import { areaOf, boundsOf } from '../../core/mask/mask.ts';
import type { Mark } from './markSchema.ts';
import { renderMark } from './renderMark.ts';

/** What is drawn and told of a mark. */
export interface MarkOutline {
  box: Rect;
  areaPx: number;
  /** Closed rings (x0, y0, x1, y1, ...), in photo px, around what is marked at half strength or more. */
  solid: number[][];
  /** The same around what is marked at all (a tenth or more). */
  faint: number[][];
}

/** Longest side of the grid on which outlines are traced. */
const GRID_PX = 600;

/** Traces a mark's outline at two strengths and measures it. */
export function outlineMark(mark: Mark, photo: Size): MarkOutline {
  const { rect, mask } = renderMark(mark, photo);
  const box = translate(boundsOf(mask), rect.x, rect.y);
  if (box.width === 0) return { box, areaPx: 0, solid: [], faint: [] };
  const step = Math.max(1, Math.ceil(Math.max(mask.width, mask.height) / GRID_PX));
  // One empty cell around, so that a mark at the picture's edge is closed there.
  const columns = Math.ceil(mask.width / step) + 2;
  const rows = Math.ceil(mask.height / step) + 2;
  const values = new Float64Array(columns * rows);
  const counts = new Float64Array(columns * rows);
  for (let y = 0; y < mask.height; y++) {
    const row = (Math.floor(y / step) + 1) * columns + 1;
    for (let x = 0; x < mask.width; x++) {
      const cell = row + Math.floor(x / step);
      values[cell]! += mask.data[y * mask.width + x]!;
      counts[cell]! += 1;
    }
  }
  const grid = Array.from(values, (sum, cell) => sum / Math.max(1, counts[cell]!));
  const trace = (threshold: number): number[][] =>
    contours()
      .size([columns, rows])
      .contour(grid, threshold)
      .coordinates.flat()
      .map((ring) => ring.flatMap(([x, y]) => [rect.x + (x! - 1) * step, rect.y + (y! - 1) * step]));
  return { box, areaPx: areaOf(mask), solid: trace(128), faint: trace(26) };
}
