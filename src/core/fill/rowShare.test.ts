import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { rowShare } from './rowShare.ts';

const [WIDTH, HEIGHT] = [240, 160];

function surface(isJoint: (x: number, y: number) => boolean): RasterImage {
  const grain = noise(2, 8);
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const value = (isJoint(x, y) ? 60 : 160) + grain();
    return [value, value, value];
  });
}

const boards = surface((_, y) => y % 22 < 4);
const bricks = surface((x, y) => y % 22 < 4 || (x + 25 * (Math.floor(y / 22) % 2)) % 50 < 6);
const stones = surface((x, y) => (x + 2 * y) % 23 < 4 || (2 * x - y) % 29 < 5);

test('boards have rows, courses of bricks less so, stones in another order none', () => {
  expect(rowShare(boards)).toBeGreaterThan(0.95);
  expect(rowShare(bricks)).toBeGreaterThan(0.4);
  expect(rowShare(bricks)).toBeLessThan(0.9);
  expect(rowShare(stones)).toBeLessThan(0.1);
});

test('what is not opaque does not count, and where hardly anything is there are no rows', () => {
  const partly = { ...boards, data: boards.data.slice() };
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    if (i % WIDTH < WIDTH / 2) partly.data.set([(i * 77) % 256, (i * 177) % 256, 0, 0], 4 * i);
  }
  expect(rowShare(partly)).toBeGreaterThan(0.95);
  expect(rowShare({ ...boards, data: boards.data.map((value, i) => (i % 4 === 3 ? 0 : value)) })).toBe(0);
});
