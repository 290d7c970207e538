import { areaOf } from './mask.ts';
import { rasterisePolygon } from './polygon.ts';

const square = (x: number, y: number, side: number) => [x, y, x + side, y, x + side, y + side, x, y + side];

test('a square on pixel borders covers exactly its pixels', () => {
  const mask = rasterisePolygon(square(1, 1, 2), 4, 4);
  expect(Array.from(mask.data)).toEqual([0, 0, 0, 0, 0, 255, 255, 0, 0, 255, 255, 0, 0, 0, 0, 0]);
});

test('coverage is a share: half a pixel to the right halves the outer columns', () => {
  const mask = rasterisePolygon(square(0.5, 0, 2), 4, 2);
  expect(Array.from(mask.data.subarray(0, 4))).toEqual([128, 255, 128, 0]);
});

test('a slanted triangle has the area that geometry gives it', () => {
  const mask = rasterisePolygon([3, 2, 61, 9, 20, 57], 64, 64);
  const area = Math.abs((61 - 3) * (57 - 2) - (20 - 3) * (9 - 2)) / 2;
  expect(Math.abs(areaOf(mask) - area)).toBeLessThan(0.01 * area);
});

test('a loop crossing itself leaves its middle unmarked (even-odd), and what lies outside is cut off', () => {
  const ring = [...square(0, 0, 8), 0, 0, ...square(2, 2, 4), 2, 2];
  const mask = rasterisePolygon(ring, 8, 8);
  expect(mask.data[4 * 8 + 4]).toBe(0);
  expect(mask.data[4 * 8 + 1]).toBe(255);
  expect(areaOf(rasterisePolygon(square(-50, -50, 100), 5, 5))).toBe(25);
});

test('two points mark nothing', () => {
  expect(areaOf(rasterisePolygon([0, 0, 5, 5], 8, 8))).toBe(0);
});
