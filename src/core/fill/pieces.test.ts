import { KNOWN, piecesOf } from './pieces.ts';

/** Cells by letters, each of a shift of its own; '.' is known. */
function piecesIn(...rows: string[]) {
  const letters = rows.join('');
  const code = (letter: string): number => (letter === '.' ? 0 : letter.charCodeAt(0));
  const dx = Int32Array.from(letters, code);
  const dy = Int32Array.from(letters, (letter) => -code(letter));
  return piecesOf({ width: rows[0]!.length, height: rows.length, factor: 2, dx, dy });
}

test('cells that touch and are copied with one shift are a piece; known ones are in none', () => {
  const { pieces, pieceOf } = piecesIn('.aab', '.acb', '....');
  expect(pieces.map(({ cells }) => [...cells].sort((a, b) => a - b))).toEqual([[1, 2, 5], [3, 7], [6]]);
  expect(pieces[1]).toMatchObject({ dx: 'b'.charCodeAt(0), dy: -'b'.charCodeAt(0) });
  expect(Array.from(pieceOf)).toEqual([KNOWN, 0, 0, 1, KNOWN, 0, 2, 1, KNOWN, KNOWN, KNOWN, KNOWN]);
});

test('cells of one shift that meet at a corner only, or over the edge of the rows, are two pieces', () => {
  expect(piecesIn('a.', '.a').pieces).toHaveLength(2);
  expect(piecesIn('..a', 'a..').pieces).toHaveLength(2);
});
