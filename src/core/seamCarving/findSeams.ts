import type { Task } from '../progress.ts';

/** What seams are looked for in. */
export interface SeamField {
  width: number;
  height: number;
  /** 8-bit levels, row by row. */
  luma: Float32Array;
  /** Added to what it costs to take a pixel out, row by row; what is to be kept has a high one. */
  keep: Float32Array;
}

const REPORT_SEAMS = 4;

/**
 * Finds upright seams, connected from top to bottom with one pixel a row, and takes them out one after the other,
 * always the one whose removal brings the least new contrast together (forward energy). Returns for each pixel the
 * number of the seam that takes it out, from 1, or 0 if it stays. O(seams x pixels).
 * M. Rubinstein, A. Shamir, S. Avidan: Improved Seam Carving for Video Retargeting, SIGGRAPH, 2008, section 5.
 *
 * `count` must be less than the width.
 */
export function* findSeams({ width, height, luma, keep }: SeamField, count: number): Task<Uint16Array> {
  const order = new Uint16Array(width * height);
  // Rows keep their stride; only the first `left` entries of each still count.
  const levels = luma.slice();
  const weights = keep.slice();
  const column = new Uint16Array(width * height);
  for (let i = 0; i < column.length; i++) column[i] = i % width;
  const cost = new Float64Array(width * height);
  const step = new Int8Array(width * height);
  for (let seam = 1; seam <= count; seam++) {
    const left = width - seam + 1;
    addCosts(levels, weights, cost, step, width, left, height);
    let x = cheapestEnd(cost, (height - 1) * width, left);
    for (let y = height - 1; y >= 0; y--) {
      const row = y * width;
      order[row + column[row + x]!] = seam;
      levels.copyWithin(row + x, row + x + 1, row + left);
      weights.copyWithin(row + x, row + x + 1, row + left);
      column.copyWithin(row + x, row + x + 1, row + left);
      x += step[row + x]!;
    }
    if (seam % REPORT_SEAMS === 0) yield { stage: 'Finding the least noticeable paths', share: seam / count };
  }
  return order;
}

/** The least cost of a seam down to each pixel, and which way it came: -1, 0 or 1. */
function addCosts(
  levels: Float32Array,
  weights: Float32Array,
  cost: Float64Array,
  step: Int8Array,
  stride: number,
  left: number,
  height: number,
): void {
  for (let y = 0; y < height; y++) {
    const row = y * stride;
    const above = row - stride;
    for (let x = 0; x < left; x++) {
      const before = levels[row + (x > 0 ? x - 1 : 0)]!;
      const after = levels[row + (x < left - 1 ? x + 1 : x)]!;
      const straight = after > before ? after - before : before - after;
      if (y === 0) {
        cost[x] = weights[x]! + straight;
        step[x] = 0;
        continue;
      }
      const over = levels[above + x]!;
      let best = cost[above + x]! + straight;
      let way = 0;
      if (x > 0) {
        const fromLeft = cost[above + x - 1]! + straight + (over > before ? over - before : before - over);
        if (fromLeft < best) {
          best = fromLeft;
          way = -1;
        }
      }
      if (x < left - 1) {
        const fromRight = cost[above + x + 1]! + straight + (over > after ? over - after : after - over);
        if (fromRight < best) {
          best = fromRight;
          way = 1;
        }
      }
      cost[row + x] = weights[row + x]! + best;
      step[row + x] = way;
    }
  }
}

function cheapestEnd(cost: Float64Array, row: number, left: number): number {
  let best = 0;
  for (let x = 1; x < left; x++) if (cost[row + x]! < cost[row + best]!) best = x;
  return best;
}
