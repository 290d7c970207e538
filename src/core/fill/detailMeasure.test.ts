import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { boundsOf } from '../mask/mask.ts';
import { measureDetail } from './detailMeasure.ts';
import { rankOf } from './rank.ts';
import { FILL_STRATEGIES, varied } from './strategy.ts';

const SIZE = 240;
const MARK = maskOf(SIZE, SIZE, (x, y) => (x - 120) ** 2 + (y - 120) ** 2 < 50 ** 2);
const BOX = boundsOf(MARK);

const grained = (amplitude: number, seed: number): RasterImage => {
  const grain = noise(seed, amplitude);
  return pictureOf(SIZE, SIZE, () => [128 + grain(), 128 + grain(), 128 + grain()]);
};
const PHOTO = grained(60, 1);
const errorOf = (fill: RasterImage): number => measureDetail(PHOTO, MARK.data, BOX, cropImage(fill, BOX)).detailError;

test('a fill as lively as its surroundings is near 0; a blurred and a rougher one are far off', () => {
  const alike = errorOf(grained(60, 2));
  expect(alike).toBeLessThan(0.15);
  expect(errorOf(grained(15, 2))).toBeGreaterThan(alike + 0.6);
  expect(errorOf(grained(240, 2))).toBeGreaterThan(alike + 0.6);
});

test('what lies outside the place does not count', () => {
  const flat = pictureOf(SIZE, SIZE, () => [128, 128, 128]);
  const fill = grained(60, 2);
  const cut = cropImage(flat, BOX);
  for (let y = 0; y < BOX.height; y++) {
    for (let x = 0; x < BOX.width; x++) {
      const at = (y + BOX.y) * SIZE + x + BOX.x;
      if (MARK.data[at]) cut.data.set(fill.data.subarray(4 * at, 4 * at + 4), 4 * (y * BOX.width + x));
    }
  }
  expect(measureDetail(PHOTO, MARK.data, BOX, cut).detailError).toBe(errorOf(fill));
});

test('of two takes the one with less error ranks first, in detail, tone or seams, unless its way is known to be worse', () => {
  const good = { detailError: 0.2, toneError: 0.2, seamError: 0.03, rimError: 0, pastEdge: 0 };
  for (const worse of [{ detailError: 0.3 }, { toneError: 0.3 }, { seamError: 0.06 }]) {
    expect(rankOf({ ...good, ...worse }, 0)).toBeGreaterThan(rankOf(good, 0));
    expect(rankOf({ ...good, ...worse }, 0)).toBeLessThan(rankOf(good, 1));
  }
});

test('past the picture’s edge it is detail, tone and the rim that count, not seams', () => {
  const good = { detailError: 0.2, toneError: 0.2, seamError: 0.03, rimError: 0, pastEdge: 1 };
  for (const worse of [{ detailError: 0.3 }, { toneError: 0.3 }, { rimError: 0.4 }]) {
    expect(rankOf({ ...good, ...worse }, 0)).toBeGreaterThan(rankOf(good, 0));
  }
  expect(rankOf({ ...good, seamError: 0.3 }, 0)).toBe(rankOf(good, 0));
});

test('a strategy stays itself for the first round and wanders, in bounds, in later ones', () => {
  for (const strategy of FILL_STRATEGIES) {
    expect(varied(strategy, 1)).toEqual(strategy);
    const later = [2, 3, 4].map((seed) => varied(strategy, seed));
    expect(new Set(later.map(({ coarseness }) => coarseness)).size).toBe(3);
    for (const { coarseness, start, planes } of later) {
      expect(Math.abs(Math.log2(coarseness / strategy.coarseness))).toBeLessThanOrEqual(0.6);
      expect({ start, planes }).toEqual({ start: strategy.start, planes: strategy.planes });
    }
  }
});
