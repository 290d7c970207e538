import { pictureOf } from '../../../tests/support/pictures.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { alignPieces } from './alignPieces.ts';
import type { CellShifts } from './offsetField.ts';

const kernels = createTwinKernels();
const FACTOR = 4;
const CELLS = 40;
const SIDE = FACTOR * CELLS;

const PERIOD = 30;
const brightness = (y: number): number => {
  const angle = (2 * Math.PI * y) / PERIOD;
  return 130 + 50 * Math.sin(angle) + 40 * Math.sin(3 * angle + 1);
};
/** Every row alike over its whole width, none like another within a period; the right half in the shade. */
const boards = pictureOf(SIDE, SIDE, (x, y) => {
  const value = brightness(y) - (x < SIDE / 2 ? 0 : 30);
  return [value, value, value];
});
const isHole = (cell: number): boolean => {
  const [x, y] = [cell % CELLS, Math.floor(cell / CELLS)];
  return x >= 12 && x < 18 && y >= 16 && y < 22;
};
const hole = new Uint8Array(SIDE * SIDE).map((_, i) =>
  isHole(Math.floor(i / SIDE / FACTOR) * CELLS + Math.floor((i % SIDE) / FACTOR)) ? 1 : 0,
);
const known = new Uint8Array(CELLS * CELLS).map((_, cell) => (isHole(cell) ? 0 : 1));

/** The upper half of the hole copied from one place, the lower from another, both some px too low or too high. */
function copied(above: { dx: number; dy: number }, below: { dx: number; dy: number }): CellShifts {
  const pick = (key: 'dx' | 'dy') =>
    new Int32Array(CELLS * CELLS).map((_, cell) => (isHole(cell) ? (cell < 19 * CELLS ? above : below)[key] : 0));
  return { width: CELLS, height: CELLS, factor: FACTOR, dx: pick('dx'), dy: pick('dy') };
}
const shifts = ({ dy }: CellShifts): [number, number] => [dy[16 * CELLS + 12]!, dy[21 * CELLS + 12]!];

test('pieces move by a px or two until lines run on, though their tone is another; which column they come from is all one', () => {
  const aligned = alignPieces(boards, hole, known, copied({ dx: 48, dy: 2 }, { dx: -36, dy: -1 }), kernels);
  expect(shifts(aligned)).toEqual([0, 0]);
});

test('in rows a piece from other rows moves across them by a px at most, one from its own stays', () => {
  const fromOthers = copied({ dx: 48, dy: 2 }, { dx: -36, dy: -1 });
  expect(shifts(alignPieces(boards, hole, known, fromOthers, kernels, true))).toEqual([1, 0]);
  // Rows that sink a little: a piece from its own rows would meet better one px higher.
  const sinking = pictureOf(SIDE, SIDE, (x, y) => {
    const value = brightness(y - Math.round(x / 40));
    return [value, value, value];
  });
  const ofOwn = copied({ dx: 48, dy: 0 }, { dx: 48, dy: 0 });
  expect(shifts(alignPieces(sinking, hole, known, ofOwn, kernels))).not.toEqual([0, 0]);
  expect(shifts(alignPieces(sinking, hole, known, ofOwn, kernels, true))).toEqual([0, 0]);
});

test('what meets already stays, and nothing is copied from where it may not', () => {
  const met = copied({ dx: 48, dy: 0 }, { dx: -36, dy: 0 });
  expect(alignPieces(boards, hole, known, met, kernels)).toEqual(met);
  const low = copied({ dx: 48, dy: PERIOD + 2 }, { dx: 48, dy: PERIOD + 2 });
  expect(shifts(alignPieces(boards, hole, known, low, kernels))).toEqual([PERIOD, PERIOD]);
  // As it stands the row of cells above the sources is not needed.
  const narrow = known.map((value, cell) => (Math.floor(cell / CELLS) === 23 ? 0 : value));
  expect(shifts(alignPieces(boards, hole, narrow, low, kernels))).toEqual([PERIOD + 2, PERIOD + 2]);
});
