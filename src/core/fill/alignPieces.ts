import type { RasterImage } from '../image/rasterImage.ts';
import type { CellShifts } from './offsetField.ts';
import { KNOWN, piecesOf, type Piece } from './pieces.ts';

/** What both sides would show is compared over so many pixels beyond a seam. */
const BAND_PX = 3;
const ROUNDS = 3;
/** A piece moves only if what differs at its seams becomes less by this share. */
const WORTHWHILE = 0.05;
const FARTHEST_MOVE_PX = 6;
/** Rows of a plane meet as they are: a piece from its own rows stays there, any other moves across them by so much. */
const FARTHEST_MOVE_ACROSS_ROWS_PX = 1;
/** Where it should go is looked for with one of so many of the pixels compared first. */
const ROUGHLY_EVERY = 4;
/** Of a longer rim so many pixels, evenly, stand for all. */
const MOST_SEAMS = 64;
/** Numbers by which a seam is told: a pixel of the piece, what added to its index leads beyond, the piece there or `KNOWN`. */
const SEAM = 3;

interface SeamedPiece extends Piece {
  seams: Int32Array;
  /** The share of its seams that is with known pixels. */
  known: number;
}

/**
 * Moves each piece by up to half a cell so that what it shows meets its surroundings: matching at work size leaves shifts
 * that much uncertain, which shows where lines cross a seam. Compared is what a piece and what lies beside it would both
 * show over a narrow band, whatever their difference in tone. Pieces take turns, those with most known pixels around them
 * first.
 *
 * `hole` has one byte per pixel of `image` (non-zero = unknown), `usable` one per cell: 1 where all of it may be copied.
 * With `inRows` the picture is a plane whose rows go on from one side to the other: pieces keep to them.
 */
export function alignPieces(
  image: RasterImage,
  hole: Uint8Array,
  usable: Uint8Array,
  cells: CellShifts,
  inRows = false,
): CellShifts {
  const { factor } = cells;
  if (factor === 1) return cells;
  const pieces = seamedPieces(cells, hole, image.width);
  const compared = comparison(pieces);
  const across = Math.min(FARTHEST_MOVE_PX, Math.ceil(factor / 2));
  const inTurn = pieces.filter(({ seams }) => seams.length > 0).sort((a, b) => b.known - a.known);
  const homes = new Map(inTurn.map((piece) => [piece, { dx: piece.dx, dy: piece.dy }]));
  let unsettled = new Set(inTurn);
  for (let round = 0; round < ROUNDS && unsettled.size > 0; round++) {
    const next = new Set<SeamedPiece>();
    for (const piece of inTurn) {
      if (!unsettled.has(piece)) continue;
      readSurroundings(image, hole, pieces, piece, compared);
      const home = homes.get(piece)!;
      const reach = { across, down: inRows ? downInRows(home) : across };
      if (!alignPiece({ image, hole, usable, cells, compared, home, reach }, piece)) continue;
      for (let k = 2; k < piece.seams.length; k += SEAM) {
        if (piece.seams[k] !== KNOWN) next.add(pieces[piece.seams[k]!]!);
      }
    }
    unsettled = next;
  }
  const dx = cells.dx.slice();
  const dy = cells.dy.slice();
  for (const piece of pieces) {
    for (const cell of piece.cells) {
      dx[cell] = piece.dx;
      dy[cell] = piece.dy;
    }
  }
  return { width: cells.width, height: cells.height, factor, dx, dy };
}

const downInRows = ({ dy }: { dy: number }): number => (dy === 0 ? 0 : FARTHEST_MOVE_ACROSS_ROWS_PX);

interface Surroundings {
  image: RasterImage;
  hole: Uint8Array;
  usable: Uint8Array;
  cells: CellShifts;
  compared: Comparison;
  /** Where the piece was matched, and how far from there it may move. */
  home: { dx: number; dy: number };
  reach: { across: number; down: number };
}

/** Moves a piece to where it meets its surroundings best; whether that is somewhere else, and worth it. */
function alignPiece(around: Surroundings, piece: SeamedPiece): boolean {
  const { image, hole, compared, home, reach } = around;
  const from = { dx: piece.dx, dy: piece.dy };
  let roughly = mismatch(image, hole, compared, from.dx, from.dy, ROUGHLY_EVERY);
  for (let v = -reach.down; v <= reach.down; v += 2) {
    for (let u = -reach.across; u <= reach.across; u += 2) {
      roughly = consider(around, piece, home.dx + u, home.dy + v, ROUGHLY_EVERY, roughly);
    }
  }
  const near = { dx: piece.dx, dy: piece.dy };
  piece.dx = from.dx;
  piece.dy = from.dy;
  let least = (1 - WORTHWHILE) * mismatch(image, hole, compared, from.dx, from.dy, 1);
  for (let k = 0; k < 9; k++) {
    least = consider(around, piece, near.dx + (k % 3) - 1, near.dy + Math.floor(k / 3) - 1, 1, least);
  }
  return piece.dx !== from.dx || piece.dy !== from.dy;
}

/** Moves a piece if it may be there and meets its surroundings better than `least`; returns how well it meets them then. */
function consider(
  { image, hole, usable, cells, compared, home, reach }: Surroundings,
  piece: SeamedPiece,
  dx: number,
  dy: number,
  every: number,
  least: number,
): number {
  const isFar = Math.abs(dx - home.dx) > reach.across || Math.abs(dy - home.dy) > reach.down;
  if (isFar || !isUsable(piece, dx, dy, usable, cells)) return least;
  const cost = mismatch(image, hole, compared, dx, dy, every);
  if (cost >= least) return least;
  piece.dx = dx;
  piece.dy = dy;
  return cost;
}

/** The pixels that a piece is compared over, and the green levels that its surroundings show there. */
interface Comparison {
  pixels: Int32Array;
  levels: Uint8Array;
  count: number;
}

/** Room for the longest comparison. */
function comparison(pieces: readonly SeamedPiece[]): Comparison {
  const most = 2 * BAND_PX * pieces.reduce((longest, { seams }) => Math.max(longest, seams.length / SEAM), 0);
  return { pixels: new Int32Array(most), levels: new Uint8Array(most), count: 0 };
}

function readSurroundings(
  { data, width }: RasterImage,
  hole: Uint8Array,
  pieces: readonly SeamedPiece[],
  { seams }: SeamedPiece,
  out: Comparison,
): void {
  out.count = 0;
  for (let k = 0; k < seams.length; k += SEAM) {
    const step = seams[k + 1]!;
    const beyond = seams[k + 2]!;
    const other = beyond === KNOWN ? 0 : pieces[beyond]!.dy * width + pieces[beyond]!.dx;
    // On the piece's own side there is nothing else to compare with but another piece.
    for (let t = beyond === KNOWN ? 1 : 1 - BAND_PX; t <= BAND_PX; t++) {
      const pixel = seams[k]! + t * step;
      // Outside the picture there is no byte at all.
      if (hole[pixel + other] !== 0) continue;
      out.pixels[out.count] = pixel;
      out.levels[out.count++] = data[4 * (pixel + other) + 1]!;
    }
  }
}

/**
 * The variance of the difference between what a piece, shifted by (dx, dy), and its surroundings would show, at one of
 * `every` pixels; green stands for luma.
 */
function mismatch(
  { data, width }: RasterImage,
  hole: Uint8Array,
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

/** Whether all that a piece would be copied from may be copied. */
function isUsable(
  piece: SeamedPiece,
  dx: number,
  dy: number,
  usable: Uint8Array,
  { factor, width, height }: CellShifts,
): boolean {
  const right = Math.ceil(dx / factor);
  const left = Math.floor(dx / factor);
  const below = Math.ceil(dy / factor);
  const above = Math.floor(dy / factor);
  for (const cell of piece.cells) {
    const x = cell % width;
    const y = Math.floor(cell / width);
    if (x + left < 0 || y + above < 0 || x + right >= width || y + below >= height) return false;
    const upper = (y + above) * width + x;
    const lower = (y + below) * width + x;
    if (usable[upper + left] === 0 || usable[upper + right] === 0) return false;
    if (usable[lower + left] === 0 || usable[lower + right] === 0) return false;
  }
  return true;
}

function seamedPieces(cells: CellShifts, hole: Uint8Array, imageWidth: number): SeamedPiece[] {
  const { pieces, pieceOf } = piecesOf(cells);
  return pieces.map((piece, id) => {
    const found: number[] = [];
    for (const cell of piece.cells) {
      if (!isInner(pieceOf, cell, cells.width)) addSeams(cells, pieceOf, hole, imageWidth, cell, id, found);
    }
    const { seams, known } = keptSeams(found);
    return { cells: piece.cells, dx: piece.dx, dy: piece.dy, seams, known };
  });
}

/** Adds the seams of a cell of piece `id` to `found`. The whole band beyond a seam lies in the picture. */
function addSeams(
  { width, factor }: CellShifts,
  pieceOf: Int32Array,
  hole: Uint8Array,
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
      if (x >= BAND_PX) meet(hole, pixel, -1, id, x === left ? pieceOf[cell - 1]! : id, found);
      if (x + BAND_PX < imageWidth) meet(hole, pixel, 1, id, x + 1 === right ? pieceOf[cell + 1]! : id, found);
      if (y >= BAND_PX) meet(hole, pixel, -imageWidth, id, y === top ? pieceOf[cell - width]! : id, found);
      if (y + BAND_PX < imageHeight) {
        meet(hole, pixel, imageWidth, id, y + 1 === bottom ? pieceOf[cell + width]! : id, found);
      }
    }
  }
}

/** Adds a seam if the pixel a step on is known, or copied with another piece, `beyond`. */
function meet(hole: Uint8Array, pixel: number, step: number, id: number, beyond: number, found: number[]): void {
  if (hole[pixel + step] === 0) found.push(pixel, step, KNOWN);
  else if (beyond !== id && beyond !== KNOWN) found.push(pixel, step, beyond);
}

function keptSeams(found: readonly number[]): Pick<SeamedPiece, 'seams' | 'known'> {
  const all = found.length / SEAM;
  const count = Math.min(all, MOST_SEAMS);
  const seams = new Int32Array(SEAM * count);
  let known = 0;
  for (let k = 0; k < count; k++) {
    const from = SEAM * Math.floor((k * all) / count);
    for (let i = 0; i < SEAM; i++) seams[SEAM * k + i] = found[from + i]!;
    if (found[from + 2] === KNOWN) known++;
  }
  return { seams, known: known / Math.max(1, count) };
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
