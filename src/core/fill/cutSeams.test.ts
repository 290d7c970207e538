import { kernels } from '../../../tests/support/kernels.ts';
import { pictureOf } from '../../../tests/support/pictures.ts';
import { cutSeams, SEAM_OPTIONS } from './cutSeams.ts';
import type { CellShifts, SquareShifts } from './offsetField.ts';

const FACTOR = 6;
const CELLS = 30;
const SIDE = FACTOR * CELLS;
/** The hole is 8 cells wide and 6 high; both places that it is copied from lie below it. */
const LEFT = 11;
const TOP = 4;
const ACROSS = 8;
const DOWN = 6;
const FIRST = { dx: -9 * FACTOR, dy: 14 * FACTOR };
const SECOND = { dx: 9 * FACTOR, dy: 14 * FACTOR };
const MIDDLE = (LEFT + ACROSS / 2) * FACTOR;

const wanted = (x: number, y: number): number => 60 + ((x * 7919 + y * 104729) % 97);
/** The one line, close to the edge of cells, where both places show what is wanted; on their other sides both are wrong. */
const lineAt = (y: number): number => MIDDLE - 4 + Math.floor(((y - TOP * FACTOR) * 8) / (DOWN * FACTOR));
const picture = pictureOf(SIDE, SIDE, (x, y) => {
  const [u, v] = [x < SIDE / 2 ? x - FIRST.dx : x - SECOND.dx, y - FIRST.dy];
  if (v < 0) return [wanted(x, y), wanted(x, y), wanted(x, y)];
  const beyond = x < SIDE / 2 ? u - lineAt(v) : lineAt(v) - u;
  // The second place is darker all over: a matter of tone, not of where to cut.
  const value = wanted(u, v) + (beyond > 1 ? 60 : 0) - (x < SIDE / 2 ? 0 : 25);
  return [value, value, value];
});
const isHoleCell = (x: number, y: number): boolean => x >= LEFT && x < LEFT + ACROSS && y >= TOP && y < TOP + DOWN;
const hole = new Uint8Array(SIDE * SIDE).map((_, i) =>
  isHoleCell(Math.floor((i % SIDE) / FACTOR), Math.floor(i / SIDE / FACTOR)) ? 1 : 0,
);
const usable = new Uint8Array(CELLS * CELLS).map((_, i) => (isHoleCell(i % CELLS, Math.floor(i / CELLS)) ? 0 : 1));
const halves: CellShifts = {
  width: CELLS,
  height: CELLS,
  factor: FACTOR,
  dx: new Int32Array(CELLS * CELLS).map((_, i) => shiftAt(i)?.dx ?? 0),
  dy: new Int32Array(CELLS * CELLS).map((_, i) => shiftAt(i)?.dy ?? 0),
};

function shiftAt(cell: number): { dx: number; dy: number } | undefined {
  const [x, y] = [cell % CELLS, Math.floor(cell / CELLS)];
  if (!isHoleCell(x, y)) return undefined;
  return x < LEFT + ACROSS / 2 ? FIRST : SECOND;
}

/** Pixels of the hole that show something else than what is wanted, tone aside. */
function wrongPixels({ width, factor, dx, dy, left, top }: SquareShifts): number {
  let wrong = 0;
  for (let i = 0; i < hole.length; i++) {
    if (!hole[i]) continue;
    const [x, y] = [i % SIDE, Math.floor(i / SIDE)];
    const square = Math.floor((y - top) / factor) * width + Math.floor((x - left) / factor);
    const from = i + dy[square]! * SIDE + dx[square]!;
    const tone = dx[square] === SECOND.dx ? 25 : 0;
    if (picture.data[4 * from + 1]! + tone !== wanted(x, y)) wrong++;
  }
  return wrong;
}

test('the seam between two pieces leaves the edge of the cells for the line along which both agree', () => {
  expect(wrongPixels({ ...halves, left: 0, top: 0 })).toBeGreaterThan(20);
  expect(wrongPixels(cutSeams(picture, hole, usable, halves, kernels))).toBe(0);
});

test('in squares of some px the seam comes as near to it as they allow', () => {
  const cut = cutSeams(picture, hole, usable, halves, kernels, { ...SEAM_OPTIONS, mostSquares: 500 });
  // Of the hole's cells and those beside them.
  expect(cut).toMatchObject({ factor: 2, width: 3 * (ACROSS + 2), height: 3 * (DOWN + 2) });
  expect(cut).toMatchObject({ left: FACTOR * (LEFT - 1), top: FACTOR * (TOP - 1) });
  expect(wrongPixels(cut)).toBeLessThan(0.5 * wrongPixels({ ...halves, left: 0, top: 0 }));
});

test('nothing is copied from where it may not', () => {
  // Where the second place would have to go on to the left of the middle.
  const column = (MIDDLE + SECOND.dx) / FACTOR - 1;
  const narrow = usable.map((value, cell) => (cell % CELLS === column ? 0 : value));
  const { dx, dy, width, factor, left, top } = cutSeams(picture, hole, narrow, halves, kernels);
  for (let i = 0; i < hole.length; i++) {
    if (!hole[i]) continue;
    const row = Math.floor((Math.floor(i / SIDE) - top) / factor);
    const square = row * width + Math.floor(((i % SIDE) - left) / factor);
    const x = (i % SIDE) + dx[square]!;
    const y = Math.floor(i / SIDE) + dy[square]!;
    expect(narrow[Math.floor(y / FACTOR) * CELLS + Math.floor(x / FACTOR)]).toBe(1);
  }
});
