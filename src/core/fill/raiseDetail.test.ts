import { detailOf } from '../../../tests/support/detail.ts';
import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import { boundsOf } from '../mask/mask.ts';
import { raiseDetail } from './raiseDetail.ts';

const SIZE = 400;
const MARK = maskOf(SIZE, SIZE, (x, y) => (x - 200) ** 2 + (y - 200) ** 2 < 90 ** 2);
const BOX = boundsOf(MARK);

/** Grain of so many levels in tiles of 2 x 2 px, under a slope of tones. */
const grained = (amplitude: number, seed: number): RasterImage => {
  const grain = noise(seed, amplitude);
  const values = Array.from({ length: (SIZE / 2) ** 2 }, grain);
  return pictureOf(SIZE, SIZE, (x, y) => {
    const value = 100 + x / 10 + values[(y >> 1) * (SIZE / 2) + (x >> 1)]!;
    return [value, value, value];
  });
};
/** A plain ground with a dark line every so many px. */
const lined = (everyPx: number): RasterImage =>
  pictureOf(SIZE, SIZE, (x) => (x % everyPx < 2 ? [60, 60, 60] : [140, 140, 140]));

const errorOf = (photo: RasterImage, place: RasterImage): number => detailOf(photo, MARK, place, kernels).detailError;

function raised(photo: RasterImage, fill: RasterImage): RasterImage {
  const place = cropImage(fill, BOX);
  raiseDetail(detailOf(photo, MARK, place, kernels), MARK.data, SIZE, BOX, place.data, kernels);
  return place;
}

test('a place that is calmer than what lies around it comes much nearer to it', () => {
  const photo = grained(60, 1);
  const calm = grained(40, 2);
  const before = errorOf(photo, cropImage(calm, BOX));
  expect(before).toBeGreaterThan(0.4);
  expect(errorOf(photo, raised(photo, calm))).toBeLessThan(0.7 * before);
});

test('its tones stay, and so does what lies outside the hole', () => {
  const photo = grained(60, 1);
  const place = raised(photo, grained(40, 2));
  const mean = (image: RasterImage): number => image.data.reduce((sum, value) => sum + value, 0) / image.data.length;
  expect(mean(place)).toBeCloseTo(mean(cropImage(grained(40, 2), BOX)), 0);
  const whole = grained(40, 2);
  pasteImage(whole, BOX, place);
  const outside = grained(40, 2);
  const changed = whole.data.findIndex((value, i) => MARK.data[i >> 2] === 0 && value !== outside.data[i]);
  expect(changed).toBe(-1);
});

test('what is livelier than its surroundings stays as it is; a few lines around are no reason to raise anything', () => {
  expect(mostChanged(grained(40, 1), grained(80, 2))).toBeLessThanOrEqual(1);
  expect(mostChanged(lined(120), lined(240))).toBeLessThanOrEqual(1);
  expect(mostChanged(grained(60, 1), grained(40, 2))).toBeGreaterThan(5);
});

/** By how many levels any byte of the place changes at most. */
function mostChanged(photo: RasterImage, fill: RasterImage): number {
  const before = cropImage(fill, BOX);
  return raised(photo, fill).data.reduce((most, value, i) => Math.max(most, Math.abs(value - before.data[i]!)), 0);
}
