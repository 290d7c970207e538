import { maskOf, pictureOf } from '../../../tests/support/pictures.ts';
import { shadowRatio } from './shadowRatio.ts';

test('tells half the light, by channel, where the ground is darker, and 1 where it is not or is not marked', () => {
  // Encoded 188 is linear .503, encoded 137 is .250: a ratio of one half in red and green, none in blue.
  const image = pictureOf(60, 20, (x) => (x < 30 ? [137, 137, 188] : [188, 188, 188]));
  const cleared = pictureOf(60, 20, () => [188, 188, 188]);
  const mark = maskOf(60, 20, (x) => x < 50);
  const ratio = shadowRatio(
    image,
    cleared,
    mark,
    maskOf(60, 20, () => false),
    2,
  );
  const at = (x: number) => Array.from(ratio.subarray(3 * (10 * 60 + x), 3 * (10 * 60 + x) + 3));
  // Nine tenths count as no shadow, so one half comes out as .5 / .9.
  expect(at(12)[0]).toBeCloseTo(0.5 / 0.9, 1);
  expect(at(12)[2]).toBe(1);
  expect(at(44)).toEqual([1, 1, 1]);
  expect(at(55)).toEqual([1, 1, 1]);
});
