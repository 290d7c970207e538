import type { RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Hole, Usable } from '../mask/byteMasks.ts';
import { ARCS, minimumCut } from '../numeric/minimumCut.ts';
import type { CellShifts, SquareShifts } from './offsetField.ts';
import { KNOWN, piecesOf, type Piece } from './pieces.ts';

/** How seams are cut. */
export const SEAM_OPTIONS = {
  /** What a seam costs per step however well both sides agree, in levels: of equal ways the shorter is taken. */
  lengthCost: 1,
  /** Of a hole of more pixels the seams are cut in larger squares, so that about as many are decided; bounds the time. */
  mostSquares: 200_000,
  /** Sources that differ by fewer levels along a seam can meet anywhere. */
  unseen: 1.5,
};
type SeamOptions = typeof SEAM_OPTIONS;

/** Binds a square that only one of two pieces can show. */
const BOUND = 1e6;
const NO_NODE = -1;

/**
 * Moves the seams between pieces, which so far run along the edges of work cells, to where they show least: a minimum
 * cut between each two pieces that touch, through the cells on either side. A step of the seam costs what both sources
 * differ there, whatever their difference in tone. V. Kwatra et al.: Graphcut Textures, SIGGRAPH, 2003.
 *
 * `hole` has one byte per pixel of `image` (non-zero = unknown), `usable` one per work cell: 1 where all of it may be
 * copied. Returns shifts for squares that divide a work cell: those of its cells and of the ones beside them.
 */
export function cutSeams(
  image: RasterImage,
  hole: Hole,
  usable: Usable,
  cells: CellShifts,
  kernels: Kernels,
  options = SEAM_OPTIONS,
): SquareShifts {
  const side = squareSide(cells, options.mostSquares);
  if (cells.factor === side) {
    return { width: cells.width, height: cells.height, factor: side, dx: cells.dx, dy: cells.dy, left: 0, top: 0 };
  }
  const giveBack = kernels.scratch.hold();
  const grid = squareGrid(image, hole, usable, cells, side, kernels);
  const nodeOf = kernels.scratch.ints(grid.labels.length).fill(NO_NODE);
  const { pairs, turns } = pairsInTurns(grid, kernels);
  let first = 0;
  const work = { grid, nodeOf, pairs, options };
  for (const count of turns) {
    kernels.inBands(CUTS, work, count, first);
    first += count;
  }
  const { labels, pieceDx, pieceDy, width, height, left, top } = grid;
  const dx = new Int32Array(labels.length);
  const dy = new Int32Array(labels.length);
  for (let i = 0; i < labels.length; i++) {
    const piece = labels[i]!;
    if (piece === KNOWN) continue;
    dx[i] = pieceDx[piece]!;
    dy[i] = pieceDy[piece]!;
  }
  giveBack();
  return { width, height, factor: side, dx, dy, left, top };
}

/**
 * The smallest side of squares that divide a work cell and keep the number of decisions bounded; not below 2 px if that
 * divides it, since stairs of 2 px are hardly seen and deciding on four times as many squares takes four times as long.
 */
function squareSide({ factor, dx, dy }: CellShifts, mostSquares: number): number {
  let copied = 0;
  for (let i = 0; i < dx.length; i++) if (dx[i] !== 0 || dy[i] !== 0) copied++;
  for (let side = factor > 2 && factor % 2 === 0 ? 2 : 1; side < factor; side++) {
    if (factor % side === 0 && copied * (factor / side) ** 2 <= mostSquares) return side;
  }
  return factor;
}

/** The squares of the hole's work cells and of those beside them. */
interface SquareGrid {
  image: RasterImage;
  hole: Hole;
  usable: Usable;
  cells: Pick<CellShifts, 'width' | 'height' | 'factor'>;
  /** What each piece is shifted by. */
  pieceDx: Int32Array;
  pieceDy: Int32Array;
  /** Squares across and down; pixels along a side, left of the first square and above it. */
  width: number;
  height: number;
  side: number;
  left: number;
  top: number;
  /** The piece that each square with unknown pixels is copied with, `KNOWN` elsewhere. */
  labels: Int32Array;
}

function squareGrid(
  image: RasterImage,
  hole: Hole,
  usable: Usable,
  shifts: CellShifts,
  side: number,
  kernels: Kernels,
): SquareGrid {
  const { scratch, share } = kernels;
  const { pieces, pieceOf } = piecesOf(shifts);
  const { width: across, height: down, factor } = shifts;
  const cells = { width: across, height: down, factor };
  const window = intersect(inflate(boundsOfCells(pieces, across), 1), wholeOf(cells));
  const inCell = factor / side;
  const width = window.width * inCell;
  const height = window.height * inCell;
  const pieceDx = scratch.ints(pieces.length);
  const pieceDy = scratch.ints(pieces.length);
  for (const [id, piece] of pieces.entries()) {
    pieceDx[id] = piece.dx;
    pieceDy[id] = piece.dy;
  }
  const grid = {
    image: { width: image.width, height: image.height, data: share(image.data) },
    hole: share(hole),
    usable: share(usable),
    cells,
    pieceDx,
    pieceDy,
    width,
    height,
    side,
    left: window.x * factor,
    top: window.y * factor,
    labels: scratch.ints(width * height).fill(KNOWN),
  };
  kernels.inBands(LABELS, { grid, pieceOf: share(pieceOf) }, window.height);
  return grid;
}

function boundsOfCells(pieces: readonly Piece[], across: number): Rect {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { cells } of pieces) {
    for (const cell of cells) {
      const x = cell % across;
      const y = (cell - x) / across;
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
    }
  }
  return { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
}

interface LabelsWork {
  grid: SquareGrid;
  /** By work cell. */
  pieceOf: Int32Array;
}

/** Labels the squares of a row of work cells. */
function labelsBand({ grid, pieceOf }: LabelsWork, band: number): void {
  const { image, hole, cells, width, side, left, top, labels } = grid;
  const { factor } = cells;
  const first = top + band * factor;
  const bottom = Math.min(image.height, first + factor);
  for (let x = left; x < Math.min(image.width, left + width * side); x += factor) {
    const piece = pieceOf[(first / factor) * cells.width + x / factor]!;
    if (piece === KNOWN) continue;
    const right = Math.min(image.width, x + factor);
    for (let v = first; v < bottom; v++) {
      const row = Math.floor((v - top) / side) * width;
      for (let u = x; u < right; u++) {
        if (hole[v * image.width + u] !== 0) labels[row + Math.floor((u - left) / side)] = piece;
      }
    }
  }
}

export const LABELS: BandWork<LabelsWork> = { name: 'labels', band: labelsBand };

/** Of each two pieces that touch, told by `first * pieces + second`, the squares along their seam. */
function touching(grid: SquareGrid): Map<number, number[]> {
  const { labels, width, height } = grid;
  const pairs = new Map<number, number[]>();
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const own = labels[i]!;
      if (own === KNOWN) continue;
      if (x + 1 < width && labels[i + 1] !== own) meet(grid, i, i + 1, pairs);
      if (y + 1 < height && labels[i + width] !== own) meet(grid, i, i + width, pairs);
    }
  }
  return pairs;
}

/** Notes the seam between two squares of different labels, if both are unknown. */
function meet({ labels, pieceDx }: SquareGrid, i: number, j: number, pairs: Map<number, number[]>): void {
  const a = labels[i]!;
  const b = labels[j]!;
  if (b === KNOWN) return;
  const key = Math.min(a, b) * pieceDx.length + Math.max(a, b);
  const seeds = pairs.get(key);
  if (seeds) seeds.push(i, j);
  else pairs.set(key, [i, j]);
}

/** Pairs of pieces that touch: four numbers each, both pieces and from where to where their squares are listed. */
interface Pairs {
  list: Int32Array;
  squares: Int32Array;
}
const PAIR = 4;

/**
 * The pairs in turns, and how many there are in each: what a pair of a turn reads and writes, none of the same turn
 * does. Those of the longest seams come first.
 */
function pairsInTurns(grid: SquareGrid, { scratch }: Kernels): { pairs: Pairs; turns: number[] } {
  const { pieceDx } = grid;
  // Of each work cell the turns whose pairs look at it.
  const taken = new Map<number, Set<number>>();
  const turns: [key: number, seeds: number[]][][] = [];
  const longestFirst = [...touching(grid)].sort(([, a], [, b]) => b.length - a.length);
  for (const [key, seeds] of longestFirst) {
    const cellsOfPair = [...cellsAround(grid, seeds)];
    let turn = 0;
    while (cellsOfPair.some((cell) => taken.get(cell)?.has(turn))) turn++;
    for (const cell of cellsOfPair) taken.set(cell, (taken.get(cell) ?? new Set()).add(turn));
    (turns[turn] ??= []).push([key, seeds]);
  }
  const all = turns.flat();
  const list = scratch.ints(PAIR * all.length);
  const squares = scratch.ints(all.reduce((sum, [, seeds]) => sum + seeds.length, 0));
  let at = 0;
  for (const [k, [key, seeds]] of all.entries()) {
    const a = Math.floor(key / pieceDx.length);
    list.set([a, key - a * pieceDx.length, at, at + seeds.length], PAIR * k);
    squares.set(seeds, at);
    at += seeds.length;
  }
  return { pairs: { list, squares }, turns: turns.map(({ length }) => length) };
}

/** The work cells that a pair looks at: from its seam it looks no farther than one of them. */
function cellsAround({ cells, side, width, left, top }: SquareGrid, seeds: readonly number[]): Set<number> {
  const around = new Set<number>();
  for (const square of seeds) {
    const x = Math.floor((left + (square % width) * side) / cells.factor);
    const y = Math.floor((top + Math.floor(square / width) * side) / cells.factor);
    for (let v = Math.max(0, y - 1); v <= Math.min(cells.height - 1, y + 1); v++) {
      for (let u = Math.max(0, x - 1); u <= Math.min(cells.width - 1, x + 1); u++) around.add(v * cells.width + u);
    }
  }
  return around;
}

interface CutsWork {
  grid: SquareGrid;
  /** One a square; `NO_NODE`, but while a pair is cut. */
  nodeOf: Int32Array;
  pairs: Pairs;
  options: SeamOptions;
}

/** Cuts a pair. */
function cutsBand({ grid, nodeOf, pairs, options }: CutsWork, pair: number): void {
  const [a, b, from, to] = pairs.list.subarray(PAIR * pair);
  cutPair(grid, a!, b!, pairs.squares.subarray(from, to), nodeOf, options);
}

export const CUTS: BandWork<CutsWork> = { name: 'cuts', band: cutsBand };

/** Decides anew which of the squares around the seam of pieces `a` and `b` each of them shows. In place. */
function cutPair(
  grid: SquareGrid,
  a: number,
  b: number,
  seeds: Int32Array,
  nodeOf: Int32Array,
  { lengthCost, unseen }: SeamOptions,
): void {
  const { labels, width } = grid;
  const around = squaresAround(grid, a, b, seeds, nodeOf);
  if (around.length === 0) return;
  const terminals = new Float32Array(around.length);
  const between = differences(grid, around, a, b);
  if (meanAlong(between, seeds, nodeOf) < unseen) {
    for (const square of around) nodeOf[square] = NO_NODE;
    return;
  }
  const capacities = new Float32Array(ARCS * around.length);
  const neighbours = new Int32Array(ARCS * around.length).fill(NO_NODE);
  for (const [node, square] of around.entries()) {
    if (Number.isNaN(between[node])) {
      terminals[node]! += labels[square] === a ? BOUND : -BOUND;
      continue;
    }
    const x = square % width;
    for (let k = 0; k < ARCS; k++) {
      if (k < 2 && (k === 0 ? x + 1 === width : x === 0)) continue;
      const other = square + (k < 2 ? 1 : width) * (k % 2 === 0 ? 1 : -1);
      if (other < 0 || other >= labels.length) continue;
      const beside = nodeOf[other]!;
      if (beside !== NO_NODE) {
        const there = Number.isNaN(between[beside]) ? between[node]! : between[beside]!;
        neighbours[ARCS * node + k] = beside;
        neighbours[ARCS * beside + (k ^ 1)] = node;
        capacities[ARCS * node + k] = between[node]! + there + lengthCost;
        capacities[ARCS * beside + (k ^ 1)] = between[node]! + there + lengthCost;
      } else if (labels[other] === a) terminals[node]! += 2 * between[node]! + lengthCost;
      else if (labels[other] === b) terminals[node]! -= 2 * between[node]! + lengthCost;
      else terminals[node]! += mismatch(grid, other, b) - mismatch(grid, other, a);
    }
  }
  const sides = minimumCut(neighbours, capacities, terminals);
  for (const [node, square] of around.entries()) {
    nodeOf[square] = NO_NODE;
    labels[square] = sides[node] ? a : b;
  }
}

/** The squares of both pieces within a work cell of their seam; writes their places in the list into `nodeOf`. */
function squaresAround(grid: SquareGrid, a: number, b: number, seeds: Int32Array, nodeOf: Int32Array): number[] {
  const { labels, width, cells, side } = grid;
  const around: number[] = [];
  for (const square of seeds) reach(labels, square, a, b, nodeOf, around);
  let from = 0;
  for (let step = 1; step < cells.factor / side; step++) {
    const to = around.length;
    for (; from < to; from++) {
      const square = around[from]!;
      const x = square % width;
      if (x > 0) reach(labels, square - 1, a, b, nodeOf, around);
      if (x + 1 < width) reach(labels, square + 1, a, b, nodeOf, around);
      if (square >= width) reach(labels, square - width, a, b, nodeOf, around);
      if (square + width < labels.length) reach(labels, square + width, a, b, nodeOf, around);
    }
  }
  return around;
}

/** Adds a square of piece `a` or `b` to `around` if it is not in it yet. */
function reach(labels: Int32Array, square: number, a: number, b: number, nodeOf: Int32Array, around: number[]): void {
  if (nodeOf[square] !== NO_NODE || (labels[square] !== a && labels[square] !== b)) return;
  nodeOf[square] = around.push(square) - 1;
}

/** How far the two sources of each square are apart, less their mean difference in tone; NaN where one has none. */
function differences(grid: SquareGrid, around: readonly number[], a: number, b: number): Float32Array {
  const { image, side, labels, pieceDx, pieceDy } = grid;
  const apart = new Float32Array(around.length);
  const offset = 4 * (pieceDy[a]! * image.width + pieceDx[a]!);
  const other = 4 * (pieceDy[b]! * image.width + pieceDx[b]!);
  let [sum, count] = [0, 0];
  for (const [node, square] of around.entries()) {
    if (!isUsable(grid, square, labels[square] === a ? b : a)) {
      apart[node] = NaN;
      continue;
    }
    const at = 4 * firstPixel(grid, square) + 1;
    sum += image.data[at + offset]! - image.data[at + other]!;
    count++;
  }
  const tone = count === 0 ? 0 : sum / count;
  for (const [node, square] of around.entries()) {
    if (Number.isNaN(apart[node])) continue;
    const first = firstPixel(grid, square);
    const across = Math.min(side, image.width - (first % image.width));
    const down = Math.min(side, image.height - Math.floor(first / image.width));
    let total = 0;
    for (let v = 0; v < down; v++) {
      for (let u = 0; u < across; u++) {
        const at = 4 * (first + v * image.width + u) + 1;
        total += Math.abs(image.data[at + offset]! - image.data[at + other]! - tone);
      }
    }
    apart[node] = total / (across * down);
  }
  return apart;
}

/** How far two pieces are apart where they meet; infinitely where that can't be told. */
function meanAlong(between: Float32Array, seeds: Int32Array, nodeOf: Int32Array): number {
  let [sum, count] = [0, 0];
  for (const square of seeds) {
    const apart = nodeOf[square] === NO_NODE ? NaN : between[nodeOf[square]!]!;
    if (Number.isNaN(apart)) continue;
    sum += apart;
    count++;
  }
  return count > 0 ? sum / count : Infinity;
}

/** What a seam between `piece` and a square that is known or of a third piece would cost. */
function mismatch(grid: SquareGrid, beside: number, piece: number): number {
  const { image, labels, pieceDx, pieceDy } = grid;
  if (!isUsable(grid, beside, piece)) return 0;
  const at = 4 * firstPixel(grid, beside) + 1;
  if (at >= image.data.length) return 0;
  const own = 4 * (pieceDy[piece]! * image.width + pieceDx[piece]!);
  const third = labels[beside]!;
  const theirs = third === KNOWN ? 0 : 4 * (pieceDy[third]! * image.width + pieceDx[third]!);
  return 2 * Math.abs(image.data[at + own]! - image.data[at + theirs]!);
}

const firstPixel = ({ width, side, left, top, image }: SquareGrid, square: number): number =>
  (top + Math.floor(square / width) * side) * image.width + left + (square % width) * side;

/** Whether a square can be copied with a piece. */
function isUsable(
  { usable, cells, width, side, left: gridLeft, top: gridTop, pieceDx, pieceDy }: SquareGrid,
  square: number,
  piece: number,
): boolean {
  const left = gridLeft + (square % width) * side + pieceDx[piece]!;
  const top = gridTop + Math.floor(square / width) * side + pieceDy[piece]!;
  if (left < 0 || top < 0) return false;
  const right = Math.floor((left + side - 1) / cells.factor);
  if (right >= cells.width) return false;
  const above = Math.floor(top / cells.factor) * cells.width;
  const below = Math.floor((top + side - 1) / cells.factor) * cells.width;
  if (below >= usable.length) return false;
  const leftmost = Math.floor(left / cells.factor);
  return usable[above + leftmost]! + usable[above + right]! + usable[below + leftmost]! + usable[below + right]! === 4;
}
