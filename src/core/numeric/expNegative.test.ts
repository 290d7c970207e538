import { expNegative } from './expNegative.ts';

test('is e to the power of minus x to seven digits, and nothing where that is too little to count', () => {
  for (let x = 0; x <= 40; x += 0.0173) expect(Math.abs(expNegative(x) / Math.exp(-x) - 1)).toBeLessThan(2e-8);
  expect(expNegative(0)).toBe(1);
  expect(expNegative(40.1)).toBe(0);
});
