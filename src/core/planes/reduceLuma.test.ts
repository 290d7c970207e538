import { maskFromRows, pictureOf } from '../../../tests/support/pictures.ts';
import { CELL_PX, cellsOf } from './cells.ts';
import { reduceLuma } from './reduceLuma.ts';

test('each cell has the mean luma of its pixels; what does not fill one is left out', () => {
  const image = pictureOf(7, 5, (x, y) => [10 * x, 10 * x, 10 * x + (y === 0 ? 100 : 0)]);
  const { width, height, luma } = reduceLuma(image, new Uint8Array(35), 2);
  expect([width, height]).toEqual([3, 2]);
  // Blue counts .114: in the upper cells half of the pixels have a hundred levels more of it.
  [5, 25, 45].forEach((mean, cell) => {
    expect(luma[cell]).toBeCloseTo(mean + 0.114 * 50, 4);
    expect(luma[cell + 3]).toBeCloseTo(mean, 4);
  });
});

test('a cell is hole if any of its pixels is', () => {
  const hole = maskFromRows('....#.', '......', '.#....', '......').data;
  const reduced = reduceLuma(
    pictureOf(6, 4, () => [0, 0, 0]),
    hole,
    2,
  );
  expect(Array.from(reduced.hole)).toEqual([0, 0, 255, 255, 0, 0]);
});

test('a square is known where its middle lies outside the hole, also one that sticks out', () => {
  const [width, height] = [2 * CELL_PX + 3, CELL_PX];
  const hole = new Uint8Array(width * height);
  const middle = CELL_PX / 2;
  hole[middle * width + CELL_PX + middle] = 1;
  expect(cellsOf({ width, height, hole })).toEqual({ width: 3, height: 1, known: Uint8Array.of(1, 0, 1) });
  hole.fill(0);
  hole[middle * width + width - 1] = 1;
  expect(Array.from(cellsOf({ width, height, hole }).known)).toEqual([1, 1, 0]);
});
