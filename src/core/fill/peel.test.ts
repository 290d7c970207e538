import { kernels } from '../../../tests/support/kernels.ts';
import { levelOf } from '../../../tests/support/levels.ts';
import { startPeel } from './onionPeel.ts';
import { averagePixel, peelTarget } from './peel.ts';
import type { Level } from './level.ts';

const [WIDTH, HEIGHT] = [60, 30];
const HOLE = { left: 40, right: 46, top: 12, bottom: 18 };
const isHole = (x: number, y: number): boolean => x >= HOLE.left && x < HOLE.right && y >= HOLE.top && y < HOLE.bottom;
const at = (x: number, y: number): number => y * WIDTH + x;

beforeEach(() => kernels.reset());

const luma = ({ features }: Level, pixel: number): number => features[4 * pixel]!;

test('a pixel becomes the rounded mean of what the matches around it bring along', () => {
  const level = levelOf(WIDTH, HEIGHT, (x, y) => (isHole(x, y) ? 0 : x), isHole);
  const peel = startPeel(level, kernels);
  const pixel = at(42, 14);
  // Copied from 30 and 25 px to the left: 12 and 17; the third patch is too far away to say anything.
  for (const [x, y, shift] of [
    [42, 14, -30],
    [44, 15, -25],
    [46, 14, -20],
  ] as const) {
    peel.matched[at(x, y)] = 1;
    peel.field.donor[at(x, y)] = at(x, y) + shift;
  }
  averagePixel(level, peel, pixel);
  // 14.5 is rounded up.
  expect(luma(level, pixel)).toBe(15);
});

test('a pixel around which nothing is matched stays as it is', () => {
  const level = levelOf(WIDTH, HEIGHT, (x) => x, isHole);
  const before = level.features.slice();
  averagePixel(level, startPeel(level, kernels), at(42, 14));
  expect(level.features).toEqual(before);
});

test('a target is matched on its known pixels alone, with the donor that costs nothing', () => {
  // Every column of its own brightness, twice: 26 px apart what is known is the same.
  const period = 26;
  const level = levelOf(WIDTH, HEIGHT, (x, y) => (isHole(x, y) ? 255 : 9 * (x % period)), isHole);
  const peel = startPeel(level, kernels);
  peel.layer[0] = at(HOLE.left, 14);
  peelTarget(level, peel, 0);
  expect(peel.found[0]! % WIDTH).toBe(HOLE.left - period);
});
