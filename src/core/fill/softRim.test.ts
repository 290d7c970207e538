import { maskOf, pictureOf } from '../../../tests/support/pictures.ts';
import { boundsOf } from '../mask/mask.ts';
import { countRim, isSoft, type RimCount } from './softRim.ts';

const SIZE = 400;
const MARK = maskOf(SIZE, SIZE, (x, y) => (x - 200) ** 2 + (y - 200) ** 2 < 120 ** 2);

/** The rim's count in a picture of grey `valueAt`. */
function around(valueAt: (x: number, y: number) => number): RimCount {
  const image = pictureOf(SIZE, SIZE, (x, y) => [valueAt(x, y), valueAt(x, y), valueAt(x, y)]);
  const box = boundsOf(MARK);
  const total = { looked: 0, sharp: 0, outstanding: 0 };
  for (let y = box.y; y < box.y + box.height; y++) {
    const { looked, sharp, outstanding } = countRim(image, MARK.data, MARK.data, box, y);
    total.looked += looked;
    total.sharp += sharp;
    total.outstanding += outstanding;
  }
  return total;
}

test('what rises slowly is soft, however far it rises', () => {
  expect(isSoft(around((x) => 0.6 * x))).toBe(true);
});

test('a line in focus that runs into the mark is sharp, one that lies inside or far from it is not', () => {
  const lineAt = (at: number) => (x: number, y: number) => (y < 200 && Math.abs(x - at) < 4 ? 220 : 90);
  expect(isSoft(around(lineAt(200)))).toBe(false);
  expect(isSoft(around((x, y) => (Math.hypot(x - 200, y - 200) < 60 ? 220 : 90)))).toBe(true);
  expect(isSoft(around(lineAt(10)))).toBe(true);
});

test('a single speck does not count', () => {
  const speck = around((x, y) => (x === 200 && y === 74 ? 220 : 90));
  expect(speck.sharp).toBeGreaterThan(0);
  expect(isSoft(speck)).toBe(true);
});

test('nor do a few places that hardly stand out; many do', () => {
  const lineOf = (levels: number) => around((x, y) => (y < 200 && Math.abs(x - 200) < 12 ? 90 + levels : 90));
  expect(isSoft(lineOf(32))).toBe(true);
  expect(isSoft(lineOf(48))).toBe(false);
  const faintRim = around((x, y) => (y < 200 && Math.hypot(x - 200, y - 200) < 124 ? 122 : 90));
  expect(isSoft(faintRim)).toBe(false);
});

test('of a rim beside which nothing is known, nothing is told', () => {
  expect(isSoft({ looked: 0, sharp: 0, outstanding: 0 })).toBe(false);
});
