import { interpolateHarmonically } from './interpolateHarmonically.ts';
import { createRandom } from './random.ts';
import { splitInTwo } from './splitInTwo.ts';

test('the same seed gives the same numbers, another gives others, all within bounds', () => {
  const draw = (seed: number) => {
    const random = createRandom(seed);
    return Array.from({ length: 50 }, () => random.below(10));
  };
  expect(draw(5)).toEqual(draw(5));
  expect(draw(5)).not.toEqual(draw(6));
  expect(draw(0).every((value) => value >= 0 && value < 10)).toBe(true);
  expect(new Set(draw(1)).size).toBeGreaterThan(5);
});

test('a hole in a ramp is filled with the ramp', () => {
  const [width, height] = [12, 10];
  const values = Float32Array.from({ length: width * height }, (_, i) => 5 * (i % width));
  const truth = values.slice();
  const hole = Uint8Array.from(values, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return x > 2 && x < 9 && y > 2 && y < 7 ? 1 : 0;
  });
  for (let i = 0; i < hole.length; i++) if (hole[i]) values[i] = -1000;
  interpolateHarmonically(values, hole, width, height, 200);
  values.forEach((value, i) => expect(value).toBeCloseTo(truth[i]!, 1));
});

test('values are split where their two groups part, however unlike in size', () => {
  expect(splitInTwo(Float32Array.of(1, 2, 2, 3, 3, 3, 4, 20, 21))).toBe(20);
  expect(splitInTwo(Float32Array.of(-30, -9, -8, -8, -7))).toBe(-9);
});
