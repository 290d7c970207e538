import { addBicubicBytes } from '../fill/bicubicSample.ts';
import type { Sources } from '../fill/sources.ts';
import type { Point } from '../geometry/homography.ts';
import { lumaAt } from '../image/luma.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { boundsOfPoints, inflate, intersect, isEmpty, wholeOf, type Rect } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import type { BandFrame } from './bandFrame.ts';

/** How bands are drawn; costs are in levels of luma. */
export const DRAW_OPTIONS = {
  /** What each leap from one row of what is seen to another costs besides what is seen of it. */
  leap: 5,
  /** So much of how far a row differs from most others is charged: what lies across a band by chance is not repeated. */
  strange: 0.5,
  /** What a row costs at the other end of the band, for tones and sharpness change from end to end. */
  fromAfar: 1.5,
  /** Where fewer rows are seen at an end, nothing is drawn. */
  leastRows: 10,
};
type DrawOptions = typeof DRAW_OPTIONS;

/** A band that is drawn in a hole. */
export interface DrawnBand {
  /** All of what is drawn lies here. */
  box: Rect;
  /** Of each pixel of the box: 2 on and between the band's outlines, 1 beside them, 0 where it is not drawn. */
  kinds: Uint8Array<ArrayBuffer>;
  /** Which run of rows a pixel of the picture is drawn with, counted from 1; 0: none. */
  groupAt: Sources['groupAt'];
  /** See `Sources`. */
  sample: Sources['sample'];
  /** Where a pixel drawn with a run is copied from; undefined where that is not known. */
  sourceOf(this: void, group: number, x: number, y: number): Point | undefined;
}

/** Next to the rim pixels may be mixed with what was marked. */
const RIM_PX = 1.5;
/** Lines across a band that are looked at. */
const MAX_LINES = 24;

/**
 * Draws a band through the unknown pixels (not 0) of a picture out of what is seen of it at both ends, led along the band's
 * curve and as wide as the band is there: the rows that are shown one after the other are those of the cheapest way from
 * one end to the other, which leaps as little as may be, and where that is seen least. `margin` px on both sides of the outermost outlines come along, the
 * inner `core` px as part of the band. Undefined where too little of the band is seen.
 */
export function drawBand(
  image: RasterImage,
  unknown: Hole,
  frame: BandFrame,
  margin: number,
  core: number,
  options: DrawOptions = DRAW_OPTIONS,
): DrawnBand | undefined {
  const across = acrossBand(frame, margin);
  const ends = [seenOf(image, unknown, frame, across, -1), seenOf(image, unknown, frame, across, 1)] as const;
  const runs = cheapestRuns(frame, ends, options);
  return runs && drawn(image, unknown, frame, across, runs, core);
}

/** Corresponding places across a band: the same share of the way from outline to outline, or as far beyond the outermost. */
interface AcrossBand {
  margin: number;
  /** Where what lies at `t` at s lies at `there`. */
  carry(t: number, s: number, there: number): number;
  /** Where the lines that are looked at lie at s. */
  lines(s: number): number[];
}

function acrossBand(frame: BandFrame, margin: number): AcrossBand {
  const carried = (t: number, own: Float64Array, other: Float64Array): number => {
    const last = own.length - 1;
    if (t <= own[0]!) return other[0]! + t - own[0]!;
    if (t >= own[last]!) return other[last]! + t - own[last]!;
    let k = 0;
    while (t > own[k + 1]!) k++;
    const share = (t - own[k]!) / Math.max(1e-6, own[k + 1]! - own[k]!);
    return other[k]! + share * (other[k + 1]! - other[k]!);
  };
  const atStart = frame.offsets(0);
  const [left, right] = [atStart[0]! - margin, atStart[atStart.length - 1]! + margin];
  const count = Math.max(5, Math.min(MAX_LINES, Math.round(right - left)));
  const canonical = Array.from({ length: count }, (_, k) => left + (k * (right - left)) / (count - 1));
  return {
    margin,
    carry: (t, s, there) => carried(t, frame.offsets(s), frame.offsets(there)),
    lines(s) {
      const there = frame.offsets(s);
      return canonical.map((t) => carried(t, atStart, there));
    },
  };
}

/** What is seen of a band at one of its ends: luma along its lines, row after row out of the hole. */
interface Seen {
  /** -1 at the start, 1 at the end. */
  side: -1 | 1;
  rows: number;
  lines: number;
  luma: Float32Array;
}

/** The s of a row of what is seen. */
const placeOfRow = ({ length }: BandFrame, side: -1 | 1, row: number): number =>
  side < 0 ? -RIM_PX - row : length + RIM_PX + row;

function seenOf(image: RasterImage, unknown: Hole, frame: BandFrame, across: AcrossBand, side: -1 | 1): Seen {
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
interface Runs {
  runAt: Int32Array;
  shifts: readonly number[];
}

/** The way from one end to the other through rows of both that costs least (dynamic programming). */
function cheapestRuns(frame: BandFrame, [start, end]: readonly [Seen, Seen], options: DrawOptions): Runs | undefined {
  const { leap, strange, fromAfar, leastRows } = options;
  if (start.rows < leastRows || end.rows < leastRows) return undefined;
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
  const oddness = [...oddnessOf(rows.slice(0, start.rows)), ...oddnessOf(rows.slice(start.rows))];
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
  let costs = new Float64Array(n).fill(Infinity);
  costs[start.rows - 1] = 0;
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
    const cost = costs[a]! + leaps[a * n + start.rows]!;
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
  return { runAt, shifts };
}

const rowOf = ({ lines, luma }: Seen, row: number): Float32Array => luma.subarray(row * lines, (row + 1) * lines);

/** Mean differences of all rows, less most of that of their tones. */
function distances(rows: readonly Float32Array[]): Float32Array {
  const n = rows.length;
  const apart = new Float32Array(n * n);
  for (let a = 0; a < n; a++)
    for (let b = 0; b < a; b++) apart[a * n + b] = apart[b * n + a] = rowsApart(rows[a]!, rows[b]!);
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

function drawn(
  image: RasterImage,
  unknown: Hole,
  frame: BandFrame,
  across: AcrossBand,
  { runAt, shifts }: Runs,
  core: number,
): DrawnBand | undefined {
  const { width, height, data } = image;
  const map = bandMap(frame, across.margin, image);
  if (!map) return undefined;
  const { box } = map;
  const inMap = (x: number, y: number): number =>
    x < box.x || y < box.y || x >= box.x + box.width || y >= box.y + box.height
      ? -1
      : (y - box.y) * box.width + x - box.x;
  const first = Math.ceil(-RIM_PX);
  /** Runs are counted from 1; 0: not of the band. */
  const groupAt = (x: number, y: number): number => {
    const i = inMap(x, y);
    const s = i < 0 ? NaN : map.s[i]!;
    if (Number.isNaN(s)) return 0;
    return 1 + runAt[Math.max(0, Math.min(runAt.length - 1, Math.round(s) - first))]!;
  };
  const sourceOf = (group: number, x: number, y: number): Point | undefined => {
    const i = inMap(x, y);
    const s = i < 0 ? NaN : map.s[i]!;
    if (Number.isNaN(s) || group === 0) return undefined;
    const there = s - shifts[group - 1]!;
    if (there < -frame.before - 1 || there > frame.length + frame.after + 1) return undefined;
    const at = frame.at(there, across.carry(map.t[i]!, s, there));
    const [u, v] = [Math.floor(at.x), Math.floor(at.y)];
    return u < 0 || v < 0 || u >= width || v >= height || unknown[v * width + u] ? undefined : at;
  };
  const sample: Sources['sample'] = (group, x, y, out) => {
    const at = sourceOf(group, x, y);
    if (!at) return false;
    out.fill(0);
    addBicubicBytes(data, width, height, at.x, at.y, 1, out);
    return true;
  };
  const kinds = new Uint8Array(box.width * box.height);
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      if (!unknown[y * width + x]) continue;
      const k = inMap(x, y);
      const s = map.s[k]!;
      if (Number.isNaN(s) || s < -2 || s > frame.length + 2 || !isInBand(frame, across.margin, s, map.t[k]!)) continue;
      if (sourceOf(groupAt(x, y), x, y)) kinds[k] = isInBand(frame, core, s, map.t[k]!) ? 2 : 1;
    }
  }
  return { box, kinds, groupAt, sample, sourceOf };
}

function isInBand(frame: BandFrame, margin: number, s: number, t: number): boolean {
  const offsets = frame.offsets(s);
  return t >= offsets[0]! - margin && t <= offsets[offsets.length - 1]! + margin;
}

/** Which place of a band each pixel in and beside it shows; not a number elsewhere. */
interface BandMap {
  box: Rect;
  s: Float32Array;
  t: Float32Array;
}

const BESIDE_PX = 3;
const FINE_PX = 0.5;

function bandMap(frame: BandFrame, margin: number, picture: RasterImage): BandMap | undefined {
  // Rows of places, each from the left to the right of the band.
  const count = Math.floor((frame.length + 2 * BESIDE_PX) / FINE_PX) + 1;
  const rows = Array.from({ length: count }, (_, k) => {
    const s = k * FINE_PX - BESIDE_PX;
    const offsets = frame.offsets(s);
    const [left, right] = [offsets[0]! - margin - BESIDE_PX, offsets[offsets.length - 1]! + margin + BESIDE_PX];
    return { s, left, right, middle: frame.at(s, 0), along: frame.along(s) };
  });
  const ends = rows.flatMap(({ s, left, right }) => [frame.at(s, left), frame.at(s, right)]);
  const [low, high] = [
    { x: Infinity, y: Infinity },
    { x: -Infinity, y: -Infinity },
  ];
  for (const { x, y } of ends) {
    [low.x, low.y] = [Math.min(low.x, x), Math.min(low.y, y)];
    [high.x, high.y] = [Math.max(high.x, x), Math.max(high.y, y)];
  }
  const box = intersect(inflate(boundsOfPoints([low, high]), 1), wholeOf(picture));
  if (isEmpty(box)) return undefined;
  const size = box.width * box.height;
  const [sOf, tOf] = [new Float32Array(size).fill(NaN), new Float32Array(size).fill(NaN)];
  const nearest = new Float32Array(size).fill(Infinity);
  for (const { s, left, right, middle, along } of rows) {
    for (let t = left; t <= right; t += FINE_PX) {
      const x = middle.x - t * along.y - box.x;
      const y = middle.y + t * along.x - box.y;
      const u = Math.floor(x);
      const v = Math.floor(y);
      if (u < 0 || v < 0 || u >= box.width || v >= box.height) continue;
      const i = v * box.width + u;
      const dx = u + 0.5 - x;
      const dy = v + 0.5 - y;
      const away = dx * dx + dy * dy;
      if (away >= nearest[i]!) continue;
      nearest[i] = away;
      sOf[i] = s + dx * along.x + dy * along.y;
      tOf[i] = t - dx * along.y + dy * along.x;
    }
  }
  return { box, s: sOf, t: tOf };
}
