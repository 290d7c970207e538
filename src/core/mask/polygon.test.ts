import { areaOf } from './mask.ts';
import { contoursOfPath } from './outlinePath.ts';
import { rasteriseContours, rasterisePolygon } from './polygon.ts';

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

const turnedSquare = (x: number, y: number, side: number) => [x, y, x, y + side, x + side, y + side, x + side, y];
const sumOf = (contours: number[][]): number =>
  rasteriseContours(contours, 40, 40).data.reduce((sum, value) => sum + value / 255, 0);

test('contours that run the same way join, the other way they cut out', () => {
  expect(sumOf([square(5, 5, 10), square(10, 5, 10)])).toBeCloseTo(150, 0);
  expect(sumOf([square(5, 5, 20), turnedSquare(10, 10, 10)])).toBeCloseTo(300, 0);
  expect(sumOf([square(5.5, 5.25, 10)])).toBeCloseTo(100, 0);
  expect(sumOf([square(30, 30, 20)])).toBeCloseTo(100, 0);
  expect(sumOf([])).toBe(0);
});

test('curves of an outline are followed closely, whatever their size', () => {
  const k = 0.5523;
  const circle = `M1 0C1 ${k} ${k} 1 0 1C-${k} 1 -1 ${k} -1 0C-1 -${k} -${k} -1 0 -1C${k} -1 1 -${k} 1 0Z`;
  for (const radius of [4, 18]) {
    const contours = contoursOfPath(circle, { scale: radius, x: 20, y: 20 });
    expect(Math.abs(sumOf(contours) / (Math.PI * radius ** 2) - 1)).toBeLessThan(0.012);
  }
  // A parabola over a chord of 2 has two thirds of its box.
  expect(sumOf(contoursOfPath('M0 0Q1 2 2 0Z', { scale: 10, x: 5, y: 5 }))).toBeCloseTo(100 * (4 / 3), -1);
  expect(contoursOfPath('', { scale: 1, x: 0, y: 0 })).toEqual([]);
});

test.each(['A10 10', 'L3 4', 'M1 2 3', 'M0 0Q1 2'])('an outline that can’t be followed is refused: %s', (path) => {
  expect(() => contoursOfPath(path, { scale: 1, x: 0, y: 0 })).toThrow(/outline in this recipe is damaged/);
});
