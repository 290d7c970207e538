import type { Homography } from '../geometry/homography.ts';
import type { DetailField } from './detailField.ts';
import { sameDetail, type Sameness } from './sameDetail.ts';

/** Points of a picture, as coordinates of its pixels' middles. */
export interface Points {
  x: Float32Array;
  y: Float32Array;
  /** What detail is seen there. */
  detail: Float32Array;
  count: number;
}

/** Points are judged in squares of so many px. */
const CELL_PX = 6;
/** Points in a square, spread over it, each where detail changes most around. */
export function pointsAround(
  field: DetailField,
  { x, y }: { x: number; y: number },
  reach: number,
  count: number,
): Points {
  const { width, height, detail, isKnown } = field;
  const [left, top] = [Math.max(0, Math.floor(x - reach)), Math.max(0, Math.floor(y - reach))];
  const [right, bottom] = [Math.min(width, Math.ceil(x + reach)), Math.min(height, Math.ceil(y + reach))];
  const step = Math.max(1, Math.floor(Math.sqrt(((right - left) * (bottom - top)) / count)));
  const xs: number[] = [];
  const ys: number[] = [];
  const details: number[] = [];
  for (let v = top; v < bottom; v += step) {
    for (let u = left; u < right; u += step) {
      let [best, at] = [-1, -1];
      for (let b = v; b < Math.min(bottom, v + step); b++) {
        for (let a = u; a < Math.min(right, u + step); a++) {
          const i = b * width + a;
          if (!isKnown[i]) continue;
          const change = Math.abs(field.dx[i]!) + Math.abs(field.dy[i]!);
          if (change > best) [best, at] = [change, i];
        }
      }
      if (at < 0) continue;
      xs.push((at % width) + 0.5);
      ys.push(Math.floor(at / width) + 0.5);
      details.push(detail[at]!);
    }
  }
  return { x: Float32Array.from(xs), y: Float32Array.from(ys), detail: Float32Array.from(details), count: xs.length };
}

export interface Agreeing {
  /** Those points around which the detail is the same where the map leads. */
  points: Points;
  /** In how many squares it is, and how much of all of it: 1 all, 0 none. */
  support: number;
  agreement: number;
}

/** Holds what is seen at points against what is seen where a map leads; `least` of the detail of a place must be the same. */
export function agreeing(field: DetailField, points: Points, map: Homography, least: number): Agreeing {
  const same: Sameness = { both: 0, all: 0 };
  const across = Math.ceil(field.width / CELL_PX) + 2;
  const size = across * (Math.ceil(field.height / CELL_PX) + 2);
  const [both, all] = [new Float32Array(size), new Float32Array(size)];
  const cellOf = (k: number): number =>
    (1 + Math.floor(points.y[k]! / CELL_PX)) * across + 1 + Math.floor(points.x[k]! / CELL_PX);
  const { texture } = field;
  let [sum, total] = [0, 0];
  for (let k = 0; k < points.count; k++) {
    if (!sameDetail(field, map, points.x[k]!, points.y[k]!, points.detail[k]!, same)) continue;
    const cell = cellOf(k);
    both[cell]! += same.both;
    all[cell]! += same.all;
    sum += same.both;
    total += same.all;
  }
  const around = (plane: Float32Array, cell: number): number => {
    let mean = 4 * plane[cell]!;
    for (const by of [1, -1, across, -across]) mean += 2 * plane[cell + by]!;
    for (const by of [across + 1, across - 1, -across + 1, -across - 1]) mean += plane[cell + by]!;
    return mean;
  };
  const isSame = new Uint8Array(size);
  let support = 0;
  for (let cell = across + 1; cell < size - across - 1; cell++) {
    if (all[cell] === 0) continue;
    const [seen, any] = [around(both, cell), around(all, cell)];
    if (seen < least * any) continue;
    isSame[cell] = 1;
    // Flat ground supports anything.
    if (all[cell]! > texture * texture) support += seen / any;
  }
  const kept: number[] = [];
  for (let k = 0; k < points.count; k++) if (isSame[cellOf(k)]) kept.push(k);
  return {
    points: {
      x: Float32Array.from(kept, (k) => points.x[k]!),
      y: Float32Array.from(kept, (k) => points.y[k]!),
      detail: Float32Array.from(kept, (k) => points.detail[k]!),
      count: kept.length,
    },
    support,
    agreement: total > 0 ? sum / total : 0,
  };
}
