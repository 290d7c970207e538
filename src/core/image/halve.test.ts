import { pictureOf } from '../../../tests/support/pictures.ts';
import { halveImage } from './halve.ts';

test('each pixel is the mean of four; odd sizes round up and repeat nothing but what is there', () => {
  const half = halveImage(pictureOf(3, 2, (x, y) => [x * 10 + y * 100, 0, 0]));
  expect([half.width, half.height]).toEqual([2, 1]);
  expect(half.data[0]).toBe(55);
  expect(half.data[4]).toBe(70);
});

test('transparent pixels lend no colour', () => {
  const image = pictureOf(2, 2, (x) => (x === 0 ? [200, 0, 0] : [0, 0, 0]));
  for (const pixel of [1, 3]) image.data[4 * pixel + 3] = 0;
  const half = halveImage(image);
  expect(Array.from(half.data)).toEqual([200, 0, 0, 128]);
});
