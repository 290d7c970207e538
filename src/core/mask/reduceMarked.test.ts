import { maskOf, pictureOf } from '../../../tests/support/pictures.ts';
import { reduceMarked } from './reduceMarked.ts';

test('a reduced picture holds the means of its cells, those cut off by the edge over what there is of them', () => {
  const odd = pictureOf(5, 2, (x) => [10 * x, 0, 255]);
  const { width, height, colour, marked } = reduceMarked(
    odd,
    maskOf(5, 2, (x) => x >= 1),
    2,
  );
  expect([width, height]).toEqual([3, 1]);
  expect(Array.from(colour)).toEqual([5, 0, 255, 25, 0, 255, 40, 0, 255]);
  expect(Array.from(marked)).toEqual([0.5, 1, 1]);
});
