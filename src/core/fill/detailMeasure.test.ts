import { detailOf } from '../../../tests/support/detail.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { boundsOf } from '../mask/mask.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';

const KERNELS = createTwinKernels();

const SIZE = 240;
const MARK = maskOf(SIZE, SIZE, (x, y) => (x - 120) ** 2 + (y - 120) ** 2 < 50 ** 2);
const BOX = boundsOf(MARK);

const grained = (amplitude: number, seed: number): RasterImage => {
  const grain = noise(seed, amplitude);
  return pictureOf(SIZE, SIZE, () => [128 + grain(), 128 + grain(), 128 + grain()]);
};
const PHOTO = grained(60, 1);
const errorOf = (fill: RasterImage): number => detailOf(PHOTO, MARK, cropImage(fill, BOX), KERNELS).detailError;

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
  expect(detailOf(PHOTO, MARK, cut, KERNELS).detailError).toBe(errorOf(fill));
});

test('liveliness is the amplitude of what is known around, whatever the place was filled with', () => {
  const around = (photo: RasterImage, fill: RasterImage): number =>
    detailOf(photo, MARK, cropImage(fill, BOX), KERNELS).liveliness;
  const own = around(PHOTO, PHOTO);
  expect(around(grained(15, 1), grained(15, 1)) / own).toBeCloseTo(0.25, 1);
  // Blurring carries a trace of the fill into its neighbours.
  const flat = pictureOf(SIZE, SIZE, () => [128, 128, 128]);
  expect(around(PHOTO, flat) / own).toBeCloseTo(1, 1);
  expect(around(flat, flat)).toBe(0);
});
