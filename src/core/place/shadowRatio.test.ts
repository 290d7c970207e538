import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { shadowRatio } from './shadowRatio.ts';

test('tells half the light, by channel, where the ground is darker, and 1 where it is not or is not marked', () => {
  // Encoded 188 is linear .503, 137 is .250, 156 is .333: a ratio of one half in red and green, two thirds in blue.
  const image = pictureOf(60, 20, (x) => (x < 30 ? [137, 137, 156] : [188, 188, 188]));
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
  // .662, 21 % of the way from .6 to .9.
  expect(at(12)[2]).toBeCloseTo(0.6 + 0.21 * 0.4, 2);
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

test('where a shadow ends sharply on lively ground, it does so in the ratio, and its inside keeps no texture', () => {
  const grain = noise(6, 30);
  const texture = pictureOf(120, 40, () => Array(3).fill(150 + grain()) as [number, number, number]);
  // A third of the light left of x = 60: encoded values by the power 1 / 2.2.
  const image = pictureOf(120, 40, (x, y) => {
    const value = texture.data[4 * (y * 120 + x)]! * (x < 60 ? (1 / 3) ** (1 / 2.2) : 1);
    return [value, value, value];
  });
  const other = noise(7, 30);
  const cleared = pictureOf(120, 40, () => Array(3).fill(150 + other()) as [number, number, number]);
  const everywhere = maskOf(120, 40, () => true);
  const nothing = maskOf(120, 40, () => false);
  const ratio = shadowRatio(image, cleared, everywhere, nothing, 6);
  const at = (x: number): number[] => Array.from({ length: 20 }, (_, k) => ratio[3 * ((k + 10) * 120 + x)]!);
  const mean = (values: number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
  expect(mean(at(56))).toBeLessThan(0.42);
  expect(mean(at(63))).toBeGreaterThan(0.9);
  expect(Math.max(...at(30)) - Math.min(...at(30))).toBeLessThan(0.05);
});

test('the edge of a shadow that is clipped to black is dark up to where the light begins', () => {
  const image = pictureOf(120, 40, (x) => (x < 60 ? [0, 0, 0] : [150, 150, 150]));
  const cleared = pictureOf(120, 40, () => [150, 150, 150]);
  const everywhere = maskOf(120, 40, () => true);
  const nothing = maskOf(120, 40, () => false);
  const ratio = shadowRatio(image, cleared, everywhere, nothing, 6);
  const at = (x: number): number => ratio[3 * (20 * 120 + x)]!;
  for (const x of [20, 45, 52, 55]) expect(at(x)).toBeLessThan(0.1);
  expect(at(66)).toBeGreaterThan(0.9);
});

test('what dims one colour of the light alone is a thing that lies there, and no shadow', () => {
  const image = pictureOf(60, 20, () => [188, 180, 90]);
  const cleared = pictureOf(60, 20, () => [188, 188, 188]);
  const everywhere = maskOf(60, 20, () => true);
  const nothing = maskOf(60, 20, () => false);
  expect(shadowRatio(image, cleared, everywhere, nothing, 2).every((ratio) => ratio === 1)).toBe(true);
  // Nor does a subject that hides all ground near a pixel leave anything but numbers there.
  const half = maskOf(60, 20, (x) => x < 30);
  expect(shadowRatio(image, cleared, everywhere, half, 2).every((ratio) => ratio === 1)).toBe(true);
});

test('a shadow that lay on redder ground than what was rebuilt there arrives without its red', () => {
  const image = pictureOf(60, 20, () => [137, 99, 90]);
  const cleared = pictureOf(60, 20, () => [188, 188, 188]);
  const everywhere = maskOf(60, 20, () => true);
  const nothing = maskOf(60, 20, () => false);
  const ratio = shadowRatio(image, cleared, everywhere, nothing, 2);
  const [red, green, blue] = ratio.subarray(3 * (10 * 60 + 30));
  expect(red).toBeCloseTo(0.5, 2);
  expect(green! / red!).toBeGreaterThan(0.9);
  expect(blue! / red!).toBeGreaterThan(0.9);
});

test('a deep shadow is as deep close to its edge as inside: no lighter seam runs along it', () => {
  // Encoded 57 is linear .041, 188 is .503.
  const image = pictureOf(120, 40, (x) => (x < 60 ? [57, 57, 57] : [188, 188, 188]));
  const cleared = pictureOf(120, 40, () => [188, 188, 188]);
  const everywhere = maskOf(120, 40, () => true);
  const nothing = maskOf(120, 40, () => false);
  const ratio = shadowRatio(image, cleared, everywhere, nothing, 6);
  for (let x = 20; x < 57; x++) expect(Math.abs(ratio[3 * (20 * 120 + x)]! - 0.081)).toBeLessThan(0.04);
});
