import type { RasterImage } from '../image/rasterImage.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Hole, Usable } from '../mask/byteMasks.ts';
import type { CellShifts } from './offsetField.ts';
import { KNOWN, piecesOf, type Piece } from './pieces.ts';

/** How pieces are aligned. */
export const ALIGN_OPTIONS = {
  /** So many times all pieces take turns, as far as those beside them moved. */
  rounds: 3,
  /** A piece moves only if what differs at its seams becomes less by this share. */
  worthwhile: 0.05,
  /** By so many px a piece moves at most, or by half a work cell if that is less: so much matching leaves uncertain. */
  farthestPx: 6,
  /** Rows of a plane meet as they are: a piece from its own rows stays there, any other moves across them by so many px. */
  farthestAcrossRowsPx: 1,
  /** Where it should go is looked for with one of so many of the pixels compared first, for speed. */
  roughlyEvery: 4,
};
type AlignOptions = typeof ALIGN_OPTIONS;

/** What both sides would show is compared over so many pixels beyond a seam. */
const STRIP_PX = 3;
/** Of a longer rim so many pixels, evenly, stand for all. */
const MAX_SEAMS = 64;
/** Numbers by which a seam is told: a pixel of the piece, what added to its index leads beyond, the piece there or `KNOWN`. */
const SEAM = 3;

/** The pieces of a hole, one number each where nothing else is said. */
interface SeamedPieces {
  /** The cells of all pieces, one piece after the other; where those of each begin, and where the last ends. */
  cells: Int32Array;
  starts: Int32Array;
  /** Of each piece the seams that stand for its rim, `MAX_SEAMS` places for each, and how many there are. */
  seams: Int32Array;
  counts: Int32Array;
  /** The share of its seams that is with known pixels. */
  known: Float64Array;
  /** What it is shifted by, and what it was by the match. */
  dx: Int32Array;
  dy: Int32Array;
  homeDx: Int32Array;
  homeDy: Int32Array;
  /** 1 where it moved when it last had its turn. */
  moved: Uint8Array;
}

/**
 * Moves each piece by up to half a cell so that what it shows meets its surroundings: matching at work size leaves shifts
 * that much uncertain, which shows where lines cross a seam. Compared is what a piece and what lies beside it would both
 * show over a narrow strip, whatever their difference in tone. Pieces take turns, those with most known pixels around them
 * first; those that don't meet may take theirs at once.
 *
 * `hole` has one byte per pixel of `image` (non-zero = unknown), `usable` one per cell: 1 where all of it may be copied.
 * With `inRows` the picture is a plane whose rows go on from one side to the other: pieces keep to them.
 */
export function alignPieces(
  image: RasterImage,
  hole: Hole,
  usable: Usable,
  shifts: CellShifts,
  kernels: Kernels,
  inRows = false,
  options = ALIGN_OPTIONS,
): CellShifts {
  const { width, height, factor } = shifts;
  if (factor === 1) return shifts;
  const { scratch, share } = kernels;
  const giveBack = scratch.hold();
  const found = piecesOf(shifts);
  const pieces = roomFor(found.pieces, kernels);
  const picture = { width: image.width, height: image.height, data: share(image.data) };
  const size = { width, height, factor };
  const known = share(hole);
  const ofPieces = { image: picture, hole: known, size, pieces, pieceOf: share(found.pieceOf) };
  kernels.inBands(PIECE_SEAMS, ofPieces, found.pieces.length);
  const beside = found.pieces.map((_, id) => besideOf(pieces, id));
  const inTurn = [...beside.keys()]
    .filter((id) => pieces.counts[id]! > 0)
    .sort((a, b) => pieces.known[b]! - pieces.known[a]!);
  const order = scratch.ints(inTurn.length);
  const work = { image: picture, hole: known, usable: share(usable), size, pieces, order, inRows, options };
  let unsettled = new Set(inTurn);
  for (let round = 0; round < options.rounds && unsettled.size > 0; round++) {
    const next = new Set<number>();
    const turns = turnsOf(
      inTurn.filter((id) => unsettled.has(id)),
      beside,
    );
    order.set(turns.flat());
    let first = 0;
    for (const { length } of turns) {
      kernels.inBands(ALIGN, work, length, first);
      first += length;
    }
    for (const id of turns.flat()) if (pieces.moved[id]) beside[id]!.forEach((other) => next.add(other));
    unsettled = next;
  }
  const dx = shifts.dx.slice();
  const dy = shifts.dy.slice();
  for (const [id, { cells }] of found.pieces.entries()) {
    for (const cell of cells) {
      dx[cell] = pieces.dx[id]!;
      dy[cell] = pieces.dy[id]!;
    }
  }
  giveBack();
  return { width, height, factor, dx, dy };
}

function roomFor(found: readonly Piece[], { scratch }: Kernels): SeamedPieces {
  const count = found.length;
  const cells = scratch.ints(found.reduce((sum, piece) => sum + piece.cells.length, 0));
  const starts = scratch.ints(count + 1);
  const [dx, dy, homeDx, homeDy] = [0, 1, 2, 3].map(() => scratch.ints(count)) as [
    Int32Array,
    Int32Array,
    Int32Array,
    Int32Array,
  ];
  for (const [id, piece] of found.entries()) {
    cells.set(piece.cells, starts[id]!);
    starts[id + 1] = starts[id]! + piece.cells.length;
    dx[id] = homeDx[id] = piece.dx;
    dy[id] = homeDy[id] = piece.dy;
  }
  return {
    cells,
    starts,
    seams: scratch.ints(SEAM * MAX_SEAMS * count),
    counts: scratch.ints(count),
    known: scratch.doubles(count),
    dx,
    dy,
    homeDx,
    homeDy,
    moved: scratch.bytes(count),
  };
}

const seamsOf = ({ seams, counts }: SeamedPieces, id: number): Int32Array =>
  seams.subarray(SEAM * MAX_SEAMS * id, SEAM * (MAX_SEAMS * id + counts[id]!));

/** The pieces that one has seams with. */
function besideOf(pieces: SeamedPieces, id: number): Set<number> {
  const seams = seamsOf(pieces, id);
  const beside = new Set<number>();
  for (let k = 2; k < seams.length; k += SEAM) if (seams[k] !== KNOWN) beside.add(seams[k]!);
  return beside;
}

/** Pieces in turns, each as early as may be: after all before it in `order` that it looks at or that look at it. */
function turnsOf(order: readonly number[], beside: readonly ReadonlySet<number>[]): number[][] {
  const turns: number[][] = [];
  // The first turn after a piece's own, and the first after those of all before it that look at it.
  const settled = new Int32Array(beside.length);
  const unseen = new Int32Array(beside.length);
  for (const id of order) {
    let turn = unseen[id]!;
    for (const other of beside[id]!) turn = Math.max(turn, settled[other]!);
    (turns[turn] ??= []).push(id);
    settled[id] = turn + 1;
    for (const other of beside[id]!) unseen[other] = Math.max(unseen[other]!, turn + 1);
  }
  return turns;
}

/** What pieces are looked at in. */
interface Surroundings {
  image: RasterImage;
  hole: Hole;
  /** Cells across and down, and pixels a cell is wide. */
  size: Pick<CellShifts, 'width' | 'height' | 'factor'>;
  pieces: SeamedPieces;
}

interface AlignWork extends Surroundings {
  usable: Usable;
  /** The pieces as they take turns. */
  order: Int32Array;
  inRows: boolean;
  options: AlignOptions;
}

/** Moves a piece to where it meets its surroundings best, if that is somewhere else and worth it. */
function alignBand(work: AlignWork, turn: number): void {
  const { image, hole, size, pieces, order, inRows, options } = work;
  const { worthwhile, farthestPx, farthestAcrossRowsPx, roughlyEvery } = options;
  const id = order[turn]!;
  const compared = readSurroundings(image, hole, pieces, id);
  const home = { dx: pieces.homeDx[id]!, dy: pieces.homeDy[id]! };
  const across = Math.min(farthestPx, Math.ceil(size.factor / 2));
  const down = !inRows ? across : home.dy === 0 ? 0 : farthestAcrossRowsPx;
  const mayBe = usability(work, id);
  const from = { dx: pieces.dx[id]!, dy: pieces.dy[id]! };
  let best = { ...from, cost: mismatch(image, hole, compared, from.dx, from.dy, roughlyEvery) };
  const consider = (dx: number, dy: number, every: number): void => {
    const isFar = Math.abs(dx - home.dx) > across || Math.abs(dy - home.dy) > down;
    if (isFar || !mayBe(dx, dy)) return;
    const cost = mismatch(image, hole, compared, dx, dy, every);
    if (cost < best.cost) best = { dx, dy, cost };
  };
  for (let v = -down; v <= down; v += 2) {
    for (let u = -across; u <= across; u += 2) consider(home.dx + u, home.dy + v, roughlyEvery);
  }
  const near = best;
  best = { ...from, cost: (1 - worthwhile) * mismatch(image, hole, compared, from.dx, from.dy, 1) };
  for (let k = 0; k < 9; k++) consider(near.dx + (k % 3) - 1, near.dy + Math.floor(k / 3) - 1, 1);
  pieces.dx[id] = best.dx;
  pieces.dy[id] = best.dy;
  pieces.moved[id] = best.dx !== from.dx || best.dy !== from.dy ? 1 : 0;
}

export const ALIGN: BandWork<AlignWork> = { name: 'align', band: alignBand };

/** The pixels that a piece is compared over, and the green levels that its surroundings show there. */
interface Comparison {
  pixels: Int32Array;
  levels: Uint8Array;
  count: number;
}

function readSurroundings({ data, width }: RasterImage, hole: Hole, pieces: SeamedPieces, id: number): Comparison {
  const seams = seamsOf(pieces, id);
  const most = (2 * STRIP_PX * seams.length) / SEAM;
  const out = { pixels: new Int32Array(most), levels: new Uint8Array(most), count: 0 };
  for (let k = 0; k < seams.length; k += SEAM) {
    const step = seams[k + 1]!;
    const beyond = seams[k + 2]!;
    const other = beyond === KNOWN ? 0 : pieces.dy[beyond]! * width + pieces.dx[beyond]!;
    // On the piece's own side there is nothing else to compare with but another piece.
    for (let t = beyond === KNOWN ? 1 : 1 - STRIP_PX; t <= STRIP_PX; t++) {
      const pixel = seams[k]! + t * step;
      // Outside the picture there is no byte at all.
      if (hole[pixel + other] !== 0) continue;
      out.pixels[out.count] = pixel;
      out.levels[out.count++] = data[4 * (pixel + other) + 1]!;
    }
  }
  return out;
}

/**
 * The variance of the difference between what a piece, shifted by (dx, dy), and its surroundings would show, at one of
 * `every` pixels; green stands for luma.
 */
function mismatch(
  { data, width }: RasterImage,
  hole: Hole,
  { pixels, levels, count }: Comparison,
  dx: number,
  dy: number,
  every: number,
): number {
  const own = dy * width + dx;
  let [sum, squares, compared] = [0, 0, 0];
  for (let k = 0; k < count; k += every) {
    const at = pixels[k]! + own;
    if (hole[at] !== 0) continue;
    const difference = data[4 * at + 1]! - levels[k]!;
    sum += difference;
    squares += difference * difference;
    compared++;
  }
  return compared === 0 ? Infinity : (squares - (sum * sum) / compared) / compared;
}

/** Tells whether all that a piece would be copied from may be copied. */
function usability({ usable, size, pieces }: AlignWork, id: number): (dx: number, dy: number) => boolean {
  const { factor, width, height } = size;
  const cells = pieces.cells.subarray(pieces.starts[id], pieces.starts[id + 1]);
  let [left, right, top, bottom] = [width, 0, height, 0];
  for (const cell of cells) {
    const x = cell % width;
    const y = (cell - x) / width;
    [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
  }
  const known = new Map<number, boolean>();
  const isWhollyUsable = (across: number, down: number): boolean => {
    if (left + across < 0 || right + across >= width || top + down < 0 || bottom + down >= height) return false;
    const step = down * width + across;
    for (const cell of cells) if (usable[cell + step] === 0) return false;
    return true;
  };
  // Many shifts fall into the same cells.
  const inCells = (across: number, down: number): boolean => {
    const key = down * 4 * width + across;
    const seen = known.get(key) ?? isWhollyUsable(across, down);
    known.set(key, seen);
    return seen;
  };
  return (dx, dy) => {
    const [from, to] = [Math.floor(dx / factor), Math.ceil(dx / factor)];
    const [above, below] = [Math.floor(dy / factor), Math.ceil(dy / factor)];
    return inCells(from, above) && inCells(to, above) && inCells(from, below) && inCells(to, below);
  };
}

interface PieceSeamsWork extends Surroundings {
  /** By cell. */
  pieceOf: Int32Array;
}

/** Finds the seams of a piece. */
function pieceSeamsBand({ hole, image, size, pieces, pieceOf }: PieceSeamsWork, id: number): void {
  const found: number[] = [];
  for (const cell of pieces.cells.subarray(pieces.starts[id], pieces.starts[id + 1])) {
    if (!isInner(pieceOf, cell, size.width)) addSeams(size, pieceOf, hole, image.width, cell, id, found);
  }
  const all = found.length / SEAM;
  const count = Math.min(all, MAX_SEAMS);
  pieces.counts[id] = count;
  const seams = seamsOf(pieces, id);
  let known = 0;
  for (let k = 0; k < count; k++) {
    const from = SEAM * Math.floor((k * all) / count);
    for (let i = 0; i < SEAM; i++) seams[SEAM * k + i] = found[from + i]!;
    if (found[from + 2] === KNOWN) known++;
  }
  pieces.known[id] = known / Math.max(1, count);
}

export const PIECE_SEAMS: BandWork<PieceSeamsWork> = { name: 'pieceSeams', band: pieceSeamsBand };

/** Adds the seams of a cell of piece `id` to `found`. The whole strip beyond a seam lies in the picture. */
function addSeams(
  { width, factor }: Pick<CellShifts, 'width' | 'factor'>,
  pieceOf: Int32Array,
  hole: Hole,
  imageWidth: number,
  cell: number,
  id: number,
  found: number[],
): void {
  const imageHeight = hole.length / imageWidth;
  const left = (cell % width) * factor;
  const top = Math.floor(cell / width) * factor;
  const right = Math.min(imageWidth, left + factor);
  const bottom = Math.min(imageHeight, top + factor);
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) {
      const pixel = y * imageWidth + x;
      if (hole[pixel] === 0) continue;
      if (x >= STRIP_PX) meet(hole, pixel, -1, id, x === left ? pieceOf[cell - 1]! : id, found);
      if (x + STRIP_PX < imageWidth) meet(hole, pixel, 1, id, x + 1 === right ? pieceOf[cell + 1]! : id, found);
      if (y >= STRIP_PX) meet(hole, pixel, -imageWidth, id, y === top ? pieceOf[cell - width]! : id, found);
      if (y + STRIP_PX < imageHeight) {
        meet(hole, pixel, imageWidth, id, y + 1 === bottom ? pieceOf[cell + width]! : id, found);
      }
    }
  }
}

/** Adds a seam if the pixel a step on is known, or copied with another piece, `beyond`. */
function meet(hole: Hole, pixel: number, step: number, id: number, beyond: number, found: number[]): void {
  if (hole[pixel + step] === 0) found.push(pixel, step, KNOWN);
  else if (beyond !== id && beyond !== KNOWN) found.push(pixel, step, beyond);
}

/** Whether only cells of the same piece lie beside a cell. */
function isInner(pieceOf: Int32Array, cell: number, width: number): boolean {
  const own = pieceOf[cell];
  const beside = cell % width;
  return (
    beside > 0 &&
    beside < width - 1 &&
    pieceOf[cell - 1] === own &&
    pieceOf[cell + 1] === own &&
    pieceOf[cell - width] === own &&
    pieceOf[cell + width] === own
  );
}
