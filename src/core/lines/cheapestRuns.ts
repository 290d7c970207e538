import { lumaAt } from '../image/luma.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Hole } from '../mask/byteMasks.ts';
import type { AcrossBand } from './acrossBand.ts';
import type { BandFrame } from './bandFrame.ts';

/** How bands are drawn; costs are in levels of luma. */
export const DRAW_OPTIONS = {
  /** What each leap from one row of what is seen to another costs besides what is seen of it. */
  leap: 5,
  /** So much of how far a row differs from most others is charged: what lies across a band by chance is not repeated. */
  strange: 0.5,
  /** What a row costs at the other end of the band, for tones and sharpness change from end to end. */
  fromAfar: 1.5,
  /** Where fewer rows are seen at an end, nothing is drawn from there. */
  leastRows: 10,
};
export type DrawOptions = typeof DRAW_OPTIONS;

/** Next to the rim pixels may be mixed with what was marked. */
const RIM_PX = 1.5;
/** What is seen of a band at one of its ends: luma along its lines, row after row out of the hole. */
export interface Seen {
  /** -1 at the start, 1 at the end. */
  side: -1 | 1;
  rows: number;
  lines: number;
  luma: Float32Array;
}

/** The s of a row of what is seen. */
const placeOfRow = ({ length }: BandFrame, side: -1 | 1, row: number): number =>
  side < 0 ? -RIM_PX - row : length + RIM_PX + row;

/** Reads what is seen of a band at one of its ends, as far as most of it is known. */
export function seenOf(image: RasterImage, unknown: Hole, frame: BandFrame, across: AcrossBand, side: -1 | 1): Seen {
  const most = Math.floor(side < 0 ? frame.before : frame.after);
  const lines = across.lines(0).length;
  const luma = new Float32Array(most * lines);
  let rows = 0;
  for (; rows < most; rows++) {
    const s = placeOfRow(frame, side, rows);
    let missing = 0;
    for (const [k, t] of across.lines(s).entries()) {
      const { x, y } = frame.at(s, t);
      const value = lumaIn(image, unknown, x, y);
      luma[rows * lines + k] = value;
      if (Number.isNaN(value)) missing++;
    }
    if (missing > 0.3 * lines && rows > 3) break;
  }
  return { side, rows, lines, luma };
}

function lumaIn({ width, height, data }: RasterImage, unknown: Hole, x: number, y: number): number {
  const [u, v] = [Math.floor(x), Math.floor(y)];
  if (u < 0 || v < 0 || u >= width || v >= height || unknown[v * width + u]) return NaN;
  return lumaAt(data, 4 * (v * width + u));
}

/** What is shown of a band: at s of so many whole px, run number `runAt[s]`, each carried back by so many px. */
export interface Runs {
  runAt: Int32Array;
  /** The s of the first. */
  first: number;
  shifts: readonly number[];
}

/**
 * The way from one end to the other through rows of both that costs least (dynamic programming); where too little is seen of
 * one end, to any row there. Undefined where too little is seen of both.
 */
export function cheapestRuns(frame: BandFrame, ends: readonly [Seen, Seen], options: DrawOptions): Runs | undefined {
  const { leap, strange, fromAfar, leastRows } = options;
  const [start, end] = ends.map((seen) => (seen.rows < leastRows ? { ...seen, rows: 0 } : seen)) as [Seen, Seen];
  if (start.rows + end.rows === 0) return undefined;
  // In the order in which they follow each other along the band: those of the start from the farthest to the rim.
  const rows = [
    ...Array.from({ length: start.rows }, (_, k) => rowOf(start, start.rows - 1 - k)),
    ...Array.from({ length: end.rows }, (_, k) => rowOf(end, k)),
  ];
  const places = [
    ...Array.from({ length: start.rows }, (_, k) => placeOfRow(frame, -1, start.rows - 1 - k)),
    ...Array.from({ length: end.rows }, (_, k) => placeOfRow(frame, 1, k)),
  ];
  const n = rows.length;
  const isLast = (row: number): boolean => row === start.rows - 1 || row === n - 1;
  const isFirst = (row: number): boolean => row === 0 || row === start.rows;
  const apart = distances(rows);
  const oddness = [rows.slice(0, start.rows), rows.slice(start.rows)].flatMap(oddnessOf);
  /** What it costs to show one row after another. */
  const leaps = new Float32Array(n * n);
  for (let a = 0; a < n; a++) {
    for (let b = 0; b < n; b++) {
      if (b === a + 1 && !isLast(a)) continue;
      const ahead = isLast(a) ? NaN : apart[(a + 1) * n + b]!;
      const behind = isFirst(b) ? NaN : apart[a * n + b - 1]!;
      const seen = Number.isNaN(ahead) ? behind : Number.isNaN(behind) ? ahead : (ahead + behind) / 2;
      leaps[a * n + b] = Number.isNaN(seen) ? 1e6 : leap + 3 * seen;
    }
  }
  const first = Math.ceil(-RIM_PX);
  const count = Math.floor(frame.length + RIM_PX) - first + 1;
  const cameFrom = new Int16Array(count * n);
  let costs = new Float64Array(n).fill(start.rows > 0 ? Infinity : 0);
  if (start.rows > 0) costs[start.rows - 1] = 0;
  for (let k = 0; k < count; k++) {
    const next = new Float64Array(n);
    const share = (k + 0.5) / count;
    for (let b = 0; b < n; b++) {
      let [least, from] = [Infinity, 0];
      for (let a = 0; a < n; a++) {
        const cost = costs[a]! + leaps[a * n + b]!;
        if (cost < least) [least, from] = [cost, a];
      }
      next[b] = least + strange * oddness[b]! + fromAfar * (b < start.rows ? share : 1 - share);
      cameFrom[k * n + b] = from;
    }
    costs = next;
  }
  let row = 0;
  let least = Infinity;
  for (let a = 0; a < n; a++) {
    const cost = costs[a]! + (end.rows > 0 ? leaps[a * n + start.rows]! : 0);
    if (cost < least) [least, row] = [cost, a];
  }
  if (!(least < 1e6)) return undefined;
  const runAt = new Int32Array(count);
  const shifts: number[] = [];
  for (let k = count - 1, after = -2; k >= 0; k--) {
    if (after !== row + 1 || isLast(row)) shifts.push(first + k - places[row]!);
    runAt[k] = shifts.length - 1;
    after = row;
    row = cameFrom[k * n + row]!;
  }
  return { runAt, first, shifts };
}

const rowOf = ({ lines, luma }: Seen, row: number): Float32Array => luma.subarray(row * lines, (row + 1) * lines);

/** Mean differences of all rows, less most of that of their tones. */
function distances(rows: readonly Float32Array[]): Float32Array {
  const n = rows.length;
  const apart = new Float32Array(n * n);
  for (let a = 0; a < n; a++) {
    for (let b = 0; b < a; b++) apart[a * n + b] = apart[b * n + a] = rowsApart(rows[a]!, rows[b]!);
  }
  return apart;
}

/** Tones that differ as a whole are evened out later, and count so much of the rest. */
const TONE_SHARE = 0.3;

function rowsApart(a: Float32Array, b: Float32Array): number {
  let [tone, count] = [0, 0];
  for (let k = 0; k < a.length; k++) {
    const by = a[k]! - b[k]!;
    if (Number.isNaN(by)) continue;
    tone += by;
    count++;
  }
  if (count === 0) return NaN;
  tone /= count;
  let sum = 0;
  for (let k = 0; k < a.length; k++) {
    const by = a[k]! - b[k]!;
    if (!Number.isNaN(by)) sum += Math.abs(by - tone);
  }
  return sum / count + TONE_SHARE * Math.abs(tone);
}

/** How far each row is from the median of all. */
function oddnessOf(rows: readonly Float32Array[]): number[] {
  if (rows.length === 0) return [];
  const usual = Float32Array.from(rows[0]!, (_, k) => {
    const sorted = rows
      .map((row) => row[k]!)
      .filter((value) => !Number.isNaN(value))
      .sort((a, b) => a - b);
    return sorted.length > 0 ? sorted[sorted.length >> 1]! : NaN;
  });
  return rows.map((row) => {
    const by = rowsApart(row, usual);
    return Number.isNaN(by) ? 0 : by;
  });
}
