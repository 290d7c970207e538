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
  expect(at(12)[0]).toBeCloseTo(0.5, 2);
  expect(at(12)[2]).toBe(1);
  expect(at(44)).toEqual([1, 1, 1]);
  expect(at(55)).toEqual([1, 1, 1]);
});

test('deep shadows keep their depth, faint darkening counts less and less, and a tenth for nothing', () => {
  // Encoded 56 is linear .040, 164 is .371, 180 is .456, all before ground of .503.
  const image = pictureOf(90, 20, (x) => Array(3).fill(x < 30 ? 56 : x < 60 ? 164 : 180) as [number, number, number]);
  const cleared = pictureOf(90, 20, () => [188, 188, 188]);
  const everywhere = maskOf(90, 20, () => true);
  const ratio = shadowRatio(
    image,
    cleared,
    everywhere,
    maskOf(90, 20, () => false),
    2,
  );
  const at = (x: number) => ratio[3 * (10 * 90 + x)]!;
  expect(at(12)).toBeCloseTo(0.079, 2);
  // .371 / .503 = .738, 46 % of the way from .6 to .9.
  expect(at(45)).toBeCloseTo(0.6 + 0.46 * 0.4, 2);
  expect(at(78)).toBe(1);
});
