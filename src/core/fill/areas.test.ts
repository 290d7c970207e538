import { maskOf } from '../../../tests/support/pictures.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { areasOf, type Area } from './areas.ts';

const areasIn = (mask: Mask): Area[] => areasOf(mask.data, boundsOf(mask), mask);

/** How often each pixel of a mask is in one of the areas. */
function times({ width, height }: Mask, areas: readonly Area[]): Uint8Array {
  const counts = new Uint8Array(width * height);
  for (const { box, bits } of areas) {
    for (let i = 0; i < bits.length; i++) {
      if (bits[i]) counts[(box.y + Math.floor(i / box.width)) * width + box.x + (i % box.width)]!++;
    }
  }
  return counts;
}

/** That every pixel of the mask is in one area, and no other pixel in any. */
function expectParted(mask: Mask, areas: readonly Area[]): void {
  expect(times(mask, areas).every((count, i) => count === (mask.data[i] ? 1 : 0))).toBe(true);
  expect(areas.reduce((sum, { pixels }) => sum + pixels, 0)).toBe(
    mask.data.reduce((n, value) => n + (value ? 1 : 0), 0),
  );
}

const longest = ({ box }: Area): number => Math.max(box.width, box.height);

test('a compact mark is not parted', () => {
  const mask = maskOf(300, 200, (x, y) => (x - 150) ** 2 + (y - 90) ** 2 < 60 ** 2);
  expect(areasIn(mask)).toEqual([]);
});

test('what lies far from each other is told apart, each in its own box', () => {
  const isFirst = (x: number, y: number): boolean => x >= 20 && x < 60 && y >= 30 && y < 80;
  const isSecond = (x: number, y: number): boolean => x >= 700 && x < 760 && y >= 300 && y < 330;
  const mask = maskOf(800, 400, (x, y) => isFirst(x, y) || isSecond(x, y));
  const areas = areasIn(mask);
  expect(areas.map(({ box }) => box)).toEqual([
    { x: 20, y: 30, width: 40, height: 50 },
    { x: 700, y: 300, width: 60, height: 30 },
  ]);
  expectParted(mask, areas);
});

test('a thing and its shadow close by stay together, farther away they are two', () => {
  const twoDiscs = (apart: number): Mask =>
    maskOf(600, 200, (x, y) => [0, apart].some((shift) => (x - 100 - shift) ** 2 + (y - 100) ** 2 < 50 ** 2));
  expect(areasIn(twoDiscs(110))).toEqual([]);
  expect(areasIn(twoDiscs(160))).toHaveLength(2);
});

test('a cable across the picture is cut into pieces that are no longer than they need to be', () => {
  const mask = maskOf(1600, 900, (x, y) => Math.abs(y - 100 - 0.4 * x) < 6);
  const areas = areasIn(mask);
  expect(areas.length).toBeGreaterThanOrEqual(5);
  expect(Math.max(...areas.map(longest))).toBeLessThan(400);
  expectParted(mask, areas);
});

test('a post between known places is cut across, a margin as long for its width is not', () => {
  const post = maskOf(600, 700, (x, y) => x >= 290 && x < 370 && y >= 90 && y < 610);
  const areas = areasIn(post);
  expect(areas.map(({ box }) => [box.x, box.width])).toEqual([
    [290, 80],
    [290, 80],
  ]);
  expectParted(post, areas);
  expect(areasIn(maskOf(600, 520, (x) => x >= 520))).toEqual([]);
});

test('the gap around a panorama is cut into pieces along each side, one on the other’s side never with it', () => {
  const [width, height] = [3000, 800];
  const mask = maskOf(width, height, (x, y) => {
    const depth = 20 + 20 * Math.abs(Math.sin(x / 300));
    return y < depth || y >= height - depth || x < 25 || x >= width - 25;
  });
  const areas = areasIn(mask);
  for (const area of areas) {
    expect(longest(area)).toBeLessThan(700);
    const { x, y, width: w, height: h } = area.box;
    expect([y === 0 && y + h === height, x === 0 && x + w === width]).toEqual([false, false]);
  }
  expectParted(mask, areas);
});

test('of countless specks those near each other are rebuilt as one', () => {
  const mask = maskOf(1200, 800, (x, y) => x % 24 < 3 && y % 24 < 3);
  const areas = areasIn(mask);
  expect(areas.length).toBeLessThanOrEqual(24);
  expectParted(mask, areas);
});
