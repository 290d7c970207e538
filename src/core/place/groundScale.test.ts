import { footShift, groundPlacement } from './groundScale.ts';

test('a thing moved half way to the horizon is half as large, its foot where it was dragged', () => {
  const placement = groundPlacement(100, 500, 400, { dxPx: 30, dyPx: -200 });
  expect(placement.scale).toBe(0.5);
  // The foot, scaled about the centre and shifted, lies 200 px higher.
  expect(400 + placement.scale * (500 - 400) + placement.dyPx).toBe(300);
  expect(footShift(500, 400, placement)).toEqual({ dxPx: 30, dyPx: -200 });
});

test('at or beyond the horizon sizes stay as they are', () => {
  expect(groundPlacement(500, 500, 400, { dxPx: 0, dyPx: 50 }).scale).toBe(1);
  expect(groundPlacement(100, 500, 400, { dxPx: 0, dyPx: -450 }).scale).toBe(1);
});
