import type { RasterImage } from '../image/rasterImage.ts';
import type { CellShifts } from './offsetField.ts';

/** What both sides would show is compared over so many pixels beyond a seam. */
const BAND_PX = 3;
const ROUNDS = 3;
/** A piece moves only if what differs at its seams becomes less by this share. */
const WORTHWHILE = 0.05;
const LARGEST_MOVE_PX = 6;
/** Of a longer rim so many pixels, evenly, stand for all. */
const MOST_SEAMS = 64;
/** Stands for the known pixels around the hole. */
const KNOWN = -1;
/** Numbers by which a seam is told: a pixel of the piece, what added to its index leads beyond, the piece there or `KNOWN`. */
const SEAM = 3;

/** Cells that touch and are copied with one shift. */
interface Piece {
  cells: number[];
  dx: number;
  dy: number;
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
 */
export function alignPieces(image: RasterImage, hole: Uint8Array, usable: Uint8Array, cells: CellShifts): CellShifts {
  const { factor } = cells;
  if (factor === 1) return cells;
  const pieces = piecesOf(cells, hole, image.width);
  const reach = Math.min(LARGEST_MOVE_PX, Math.ceil(factor / 2));
  const inTurn = pieces.filter(({ seams }) => seams.length > 0).sort((a, b) => b.known - a.known);
  const homes = new Map(inTurn.map((piece) => [piece, { dx: piece.dx, dy: piece.dy }]));
  let unsettled = new Set(inTurn);
  for (let round = 0; round < ROUNDS && unsettled.size > 0; round++) {
    const next = new Set<Piece>();
    for (const piece of inTurn) {
      if (!unsettled.has(piece)) continue;
      const home = homes.get(piece)!;
      const from = { dx: piece.dx, dy: piece.dy };
      let least = (1 - WORTHWHILE) * mismatch(image, hole, pieces, piece, from.dx, from.dy);
      const consider = (dx: number, dy: number): void => {
        if (Math.abs(dx - home.dx) > reach || Math.abs(dy - home.dy) > reach || !isUsable(piece, dx, dy, usable, cells))
          return;
        const cost = mismatch(image, hole, pieces, piece, dx, dy);
        if (cost >= least) return;
        least = cost;
        piece.dx = dx;
        piece.dy = dy;
      };
      for (let v = -reach; v <= reach; v += 2) {
        for (let u = -reach; u <= reach; u += 2) consider(home.dx + u, home.dy + v);
      }
      const around = { dx: piece.dx, dy: piece.dy };
      for (let k = 0; k < 9; k++) consider(around.dx + (k % 3) - 1, around.dy + Math.floor(k / 3) - 1);
      if (piece.dx === from.dx && piece.dy === from.dy) continue;
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
  return { ...cells, dx, dy };
}

/**
 * The variance of the difference between what a piece, shifted by (dx, dy), and its surroundings would show; green stands
 * for luma.
 */
function mismatch(
  { data, width }: RasterImage,
  hole: Uint8Array,
  pieces: readonly Piece[],
  { seams }: Piece,
  dx: number,
  dy: number,
): number {
  const own = dy * width + dx;
  let [sum, squares, count] = [0, 0, 0];
  for (let k = 0; k < seams.length; k += SEAM) {
    const pixel = seams[k]!;
    const step = seams[k + 1]!;
    const beyond = seams[k + 2]!;
    const other = beyond === KNOWN ? 0 : pieces[beyond]!.dy * width + pieces[beyond]!.dx;
    // On the piece's own side there is nothing else to compare with but another piece.
    const from = beyond === KNOWN ? 1 : 1 - BAND_PX;
    for (let t = from; t <= BAND_PX; t++) {
      const a = pixel + t * step + own;
      const b = pixel + t * step + other;
      // Outside the picture there is no byte at all.
      if (hole[a] !== 0 || hole[b] !== 0) continue;
      const difference = data[4 * a + 1]! - data[4 * b + 1]!;
      sum += difference;
      squares += difference * difference;
      count++;
    }
  }
  return count === 0 ? Infinity : (squares - (sum * sum) / count) / count;
}

/** Whether all that a piece would be copied from may be copied. */
function isUsable(
  piece: Piece,
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
    for (const row of [(y + above) * width + x, (y + below) * width + x]) {
      if (usable[row + left] === 0 || usable[row + right] === 0) return false;
    }
  }
  return true;
}

function piecesOf(cells: CellShifts, hole: Uint8Array, imageWidth: number): Piece[] {
  const { dx, dy, width, factor } = cells;
  const imageHeight = hole.length / imageWidth;
  const pieceOf = new Int32Array(dx.length).fill(KNOWN);
  const pieces: Piece[] = [];
  const isCopied = (cell: number): boolean => dx[cell] !== 0 || dy[cell] !== 0;
  for (let start = 0; start < dx.length; start++) {
    if (pieceOf[start] !== KNOWN || !isCopied(start)) continue;
    const piece: Piece = { cells: [start], dx: dx[start]!, dy: dy[start]!, seams: new Int32Array(0), known: 0 };
    const id = pieces.push(piece) - 1;
    pieceOf[start] = id;
    const add = (cell: number): void => {
      if (pieceOf[cell] !== KNOWN || dx[cell] !== piece.dx || dy[cell] !== piece.dy) return;
      pieceOf[cell] = id;
      piece.cells.push(cell);
    };
    // The list grows while it is walked.
    for (const cell of piece.cells) {
      const x = cell % width;
      if (x > 0) add(cell - 1);
      if (x + 1 < width) add(cell + 1);
      add(cell - width);
      add(cell + width);
    }
  }
  for (const [id, piece] of pieces.entries()) {
    const found: number[] = [];
    const join = (x: number, y: number, acrossX: number, acrossY: number): void => {
      const farX = x + BAND_PX * acrossX;
      const farY = y + BAND_PX * acrossY;
      if (farX < 0 || farY < 0 || farX >= imageWidth || farY >= imageHeight) return;
      const step = acrossY * imageWidth + acrossX;
      const pixel = y * imageWidth + x;
      const isKnown = hole[pixel + step] === 0;
      const beyond = pieceOf[Math.floor((y + acrossY) / factor) * width + Math.floor((x + acrossX) / factor)]!;
      if (isKnown) found.push(pixel, step, KNOWN);
      else if (beyond !== id && beyond !== KNOWN) found.push(pixel, step, beyond);
    };
    for (const cell of piece.cells) {
      if (isInner(pieceOf, cell, width)) continue;
      const left = (cell % width) * factor;
      const top = Math.floor(cell / width) * factor;
      const right = Math.min(imageWidth, left + factor);
      const bottom = Math.min(imageHeight, top + factor);
      for (let y = top; y < bottom; y++) {
        for (let x = left; x < right; x++) {
          if (hole[y * imageWidth + x] === 0) continue;
          join(x, y, -1, 0);
          join(x, y, 1, 0);
          join(x, y, 0, -1);
          join(x, y, 0, 1);
        }
      }
    }
    keepSeams(piece, found);
  }
  return pieces;
}

function keepSeams(piece: Piece, found: readonly number[]): void {
  const all = found.length / SEAM;
  const count = Math.min(all, MOST_SEAMS);
  piece.seams = new Int32Array(SEAM * count);
  let known = 0;
  for (let k = 0; k < count; k++) {
    const from = SEAM * Math.floor((k * all) / count);
    for (let i = 0; i < SEAM; i++) piece.seams[SEAM * k + i] = found[from + i]!;
    if (found[from + 2] === KNOWN) known++;
  }
  piece.known = known / Math.max(1, count);
}

/** Whether only cells of the same piece lie beside a cell. */
function isInner(pieceOf: Int32Array, cell: number, width: number): boolean {
  const own = pieceOf[cell];
  const beside = cell % width;
  if (beside === 0 || beside === width - 1) return false;
  return [cell - 1, cell + 1, cell - width, cell + width].every((other) => pieceOf[other] === own);
}
