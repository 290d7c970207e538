import type { CellShifts } from './offsetField.ts';

/** Stands for the known cells around the hole. */
export const KNOWN = -1;

/** Work cells that touch and are copied with one shift. */
export interface Piece {
  cells: number[];
  dx: number;
  dy: number;
}

/** The pieces that a hole is put together from, and of each cell which it belongs to, or `KNOWN`. */
export function piecesOf(shifts: CellShifts): { pieces: Piece[]; pieceOf: Int32Array } {
  const { dx, dy, width } = shifts;
  const pieceOf = new Int32Array(dx.length).fill(KNOWN);
  const pieces: Piece[] = [];
  for (let start = 0; start < dx.length; start++) {
    if (pieceOf[start] !== KNOWN || (dx[start] === 0 && dy[start] === 0)) continue;
    const piece: Piece = { cells: [start], dx: dx[start]!, dy: dy[start]! };
    const id = pieces.push(piece) - 1;
    pieceOf[start] = id;
    // The list grows while it is walked.
    for (const cell of piece.cells) {
      const x = cell % width;
      if (x > 0) join(piece, id, cell - 1, shifts, pieceOf);
      if (x + 1 < width) join(piece, id, cell + 1, shifts, pieceOf);
      join(piece, id, cell - width, shifts, pieceOf);
      join(piece, id, cell + width, shifts, pieceOf);
    }
  }
  return { pieces, pieceOf };
}

/** Adds a cell to piece `id` if it is copied with its shift and in none yet. */
function join(piece: Piece, id: number, cell: number, { dx, dy }: CellShifts, pieceOf: Int32Array): void {
  if (pieceOf[cell] !== KNOWN || dx[cell] !== piece.dx || dy[cell] !== piece.dy) return;
  pieceOf[cell] = id;
  piece.cells.push(cell);
}
