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
export function piecesOf({ dx, dy, width }: CellShifts): { pieces: Piece[]; pieceOf: Int32Array } {
  const pieceOf = new Int32Array(dx.length).fill(KNOWN);
  const pieces: Piece[] = [];
  for (let start = 0; start < dx.length; start++) {
    if (pieceOf[start] !== KNOWN || (dx[start] === 0 && dy[start] === 0)) continue;
    const piece: Piece = { cells: [start], dx: dx[start]!, dy: dy[start]! };
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
  return { pieces, pieceOf };
}
