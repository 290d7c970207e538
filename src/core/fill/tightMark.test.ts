import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { tightMarkGrowth } from './tightMark.ts';

const SIZE = 200;
const within = (radius: number) => (x: number, y: number) => (x - 100) ** 2 + (y - 100) ** 2 < radius ** 2;
const grain = noise(7, 10);
/** A red disc of radius 40 on grained grey. */
const PHOTO = pictureOf(SIZE, SIZE, (x, y) => {
  const g = grain();
  return within(40)(x, y) ? [200 + g, 40 + g, 40 + g] : [120 + g, 120 + g, 120 + g];
});

test('a mark that cuts off 6 px of a thing all around is to grow by about that much', () => {
  const growth = tightMarkGrowth(PHOTO, maskOf(SIZE, SIZE, within(34)));
  expect(growth).toBeGreaterThanOrEqual(6);
  expect(growth).toBeLessThanOrEqual(10);
});

test('a mark with room around its thing is left as it is', () => {
  expect(tightMarkGrowth(PHOTO, maskOf(SIZE, SIZE, within(52)))).toBe(0);
});

test('lively texture alone is no thing that is cut', () => {
  const lively = noise(3, 120);
  const texture = pictureOf(SIZE, SIZE, () => [128 + lively(), 128 + lively(), 128 + lively()]);
  expect(tightMarkGrowth(texture, maskOf(SIZE, SIZE, within(40)))).toBe(0);
});
