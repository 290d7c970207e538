import { createMask, type Mask } from './mask.ts';

const SUB_ROWS = 4;

/**
 * Coverage of a closed polygon (even-odd rule) on a `width` x `height` grid, anti-aliased: four sub-rows a pixel, exact
 * horizontally. `points` is x0, y0, x1, y1, ... in pixel coordinates; the last point joins the first. Fewer than
 * three points give an empty mask. O(rows x crossings).
 */
export function rasterisePolygon(points: readonly number[], width: number, height: number): Mask {
  const mask = createMask(width, height);
  const count = points.length >> 1;
  if (count < 3) return mask;
  let top = Infinity;
  let bottom = -Infinity;
  for (let i = 0; i < count; i++) {
    top = Math.min(top, points[2 * i + 1]!);
    bottom = Math.max(bottom, points[2 * i + 1]!);
  }
  fillRows(mask, top, bottom, SUB_ROWS, (y, addSpan) => {
    const crossings = crossingsAt(points, count, y);
    for (let k = 0; k + 1 < crossings.length; k += 2) addSpan(crossings[k]!, crossings[k + 1]!);
  });
  return mask;
}

/** Lettering has many thin strokes that are nearly level. */
const SUB_ROWS_OF_CONTOURS = 8;

/**
 * Coverage of closed contours together (non-zero winding rule: where they run the same way they join, the other way they
 * cut out), anti-aliased with eight sub-rows a pixel. Each contour is x0, y0, x1, y1, ... in pixel coordinates.
 */
export function rasteriseContours(contours: readonly (readonly number[])[], width: number, height: number): Mask {
  const mask = createMask(width, height);
  const edges: Edge[] = [];
  for (const points of contours) {
    const count = points.length >> 1;
    for (let i = 0, j = count - 1; i < count; j = i++) {
      const [x0, y0, x1, y1] = [points[2 * j]!, points[2 * j + 1]!, points[2 * i]!, points[2 * i + 1]!];
      if (y0 === y1) continue;
      const slope = (x1 - x0) / (y1 - y0);
      edges.push({
        top: Math.min(y0, y1),
        bottom: Math.max(y0, y1),
        x: x0 - slope * y0,
        slope,
        turn: y1 > y0 ? 1 : -1,
      });
    }
  }
  edges.sort((a, b) => a.top - b.top);
  const lowest = edges.reduce((most, { bottom }) => Math.max(most, bottom), -Infinity);
  let next = 0;
  let active: Edge[] = [];
  fillRows(mask, edges[0]?.top ?? 0, lowest, SUB_ROWS_OF_CONTOURS, (y, addSpan) => {
    while (next < edges.length && edges[next]!.top <= y) active.push(edges[next++]!);
    active = active.filter(({ bottom }) => bottom > y);
    const crossings = active.map(({ x, slope, turn }) => ({ at: x + slope * y, turn })).sort((a, b) => a.at - b.at);
    let winding = 0;
    for (const [k, { at, turn }] of crossings.entries()) {
      winding += turn;
      if (winding !== 0) addSpan(at, crossings[k + 1]!.at);
    }
  });
  return mask;
}

/** An upright run of a contour: x + slope * y on it, and which way it goes. */
interface Edge {
  top: number;
  bottom: number;
  x: number;
  slope: number;
  turn: 1 | -1;
}

/** Adds up the spans that lie inside on each sub-row. */
function fillRows(
  mask: Mask,
  top: number,
  bottom: number,
  subRows: number,
  spansAt: (y: number, addSpan: (from: number, to: number) => void) => void,
): void {
  const { width, height, data } = mask;
  const coverage = new Float32Array(width + 1);
  const add = (from: number, to: number): void => addSpan(coverage, from, to, width);
  for (let y = Math.max(0, Math.floor(top)); y < Math.min(height, Math.ceil(bottom)); y++) {
    coverage.fill(0);
    for (let sub = 0; sub < subRows; sub++) spansAt(y + (sub + 0.5) / subRows, add);
    const row = y * width;
    for (let x = 0; x < width; x++) data[row + x] = Math.min(255, Math.round((coverage[x]! * 255) / subRows));
  }
}

function crossingsAt(points: readonly number[], count: number, y: number): number[] {
  const crossings: number[] = [];
  for (let i = 0, j = count - 1; i < count; j = i++) {
    const yi = points[2 * i + 1]!;
    const yj = points[2 * j + 1]!;
    if (yi > y !== yj > y) {
      const xi = points[2 * i]!;
      crossings.push(xi + ((y - yi) / (yj - yi)) * (points[2 * j]! - xi));
    }
  }
  return crossings.sort((a, b) => a - b);
}

function addSpan(coverage: Float32Array, from: number, to: number, width: number): void {
  const a = Math.max(0, Math.min(width, from));
  const b = Math.max(0, Math.min(width, to));
  if (b <= a) return;
  const first = Math.floor(a);
  const last = Math.floor(b);
  if (first === last) {
    coverage[first]! += b - a;
    return;
  }
  coverage[first]! += first + 1 - a;
  for (let x = first + 1; x < last; x++) coverage[x]! += 1;
  coverage[last]! += b - last;
}
