import { patchCost } from './patchCost.ts';

const WIDTH = 14;

function features(): Uint8Array {
  const data = new Uint8Array(WIDTH * 7 * 4);
  for (let y = 0; y < 7; y++) for (let x = 7; x < 14; x++) data[(y * WIDTH + x) * 4 + 2] = x === 10 && y === 3 ? 9 : 2;
  return data;
}

test('is the sum of squared differences of two patches', () => {
  // 48 pixels differ by 2, one by 9.
  expect(patchCost(features(), WIDTH, 3 * WIDTH + 3, 3 * WIDTH + 10, Infinity)).toBe(48 * 4 + 81);
});

test('stops at the limit with no less than it', () => {
  const cost = patchCost(features(), WIDTH, 3 * WIDTH + 3, 3 * WIDTH + 10, 50);
  expect(cost).toBeGreaterThanOrEqual(50);
  expect(cost).toBeLessThan(48 * 4 + 81);
});
