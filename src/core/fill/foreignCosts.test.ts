import { kernels } from '../../../tests/support/kernels.ts';
import { noise } from '../../../tests/support/pictures.ts';
import { foreignCosts } from './foreignCosts.ts';
import { indexLevel } from './level.ts';

const [WIDTH, HEIGHT] = [120, 90];

/** Light plaster with grain, and a dark ledge along the rows from `top` on; a round hole in the middle. */
function plaster(top: number) {
  kernels.reset();
  const features = kernels.scratch.bytes(4 * WIDTH * HEIGHT + 16);
  const hole = kernels.scratch.bytes(WIDTH * HEIGHT);
  const usable = kernels.scratch.bytes(WIDTH * HEIGHT);
  const grain = noise(2, 6);
  for (let i = 0; i < hole.length; i++) {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    features.set(y >= top && y < top + 14 ? [90 + grain(), 120, 140, 0] : [200 + grain(), 118, 132, 0], 4 * i);
    hole[i] = (x - 60) ** 2 + (y - 45) ** 2 < 20 ** 2 ? 1 : 0;
    usable[i] = 1 - hole[i]!;
  }
  const level = indexLevel({ width: WIDTH, height: HEIGHT, features, hole, usable }, 0, kernels.scratch);
  const costs = foreignCosts(level, 1000);
  return { costs, on: (y: number) => costs[y * WIDTH + 10]! };
}

test('what the rim has most of costs nothing, what it has none of the most', () => {
  const { costs, on } = plaster(70);
  expect(on(40)).toBe(0);
  expect(on(77)).toBeGreaterThan(3500);
  expect(Math.max(...costs)).toBeLessThanOrEqual(4000);
});

test('what the rim has some of costs the less, the more it is', () => {
  const [touched, cut] = [plaster(68).on(75), plaster(62).on(69)];
  expect(touched).toBeGreaterThan(cut);
  expect(touched).toBeLessThan(plaster(70).on(77));
});

test('patches that may not be copied have no cost', () => {
  const { costs } = plaster(70);
  expect(costs[45 * WIDTH + 60]).toBe(0);
  expect(costs[77 * WIDTH + 1]).toBe(0);
});
