import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage } from '../image/rasterImage.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { boundsOf } from '../mask/mask.ts';
import { measureRim } from './rimMeasure.ts';

const KERNELS = createTwinKernels();
const SIZE = 160;
const HOLE = maskOf(SIZE, SIZE, (x, y) => x >= 60 && x < 110 && y >= 50 && y < 100);
const BOX = boundsOf(HOLE);
const ground = (seed: number, lighter = 0, lively = 12) => {
  const grain = noise(seed, lively);
  return pictureOf(SIZE, SIZE, () => {
    const value = 120 + lighter + grain();
    return [value, value, value];
  });
};
const PHOTO = ground(1);
const errorOf = (seed: number, lighter: number, lively?: number): number =>
  measureRim(PHOTO, HOLE.data, BOX, cropImage(ground(seed, lighter, lively), BOX), KERNELS).rimError;

test('a rim across which texture goes on does not show; a step does, the more the larger it is', () => {
  expect(Math.abs(errorOf(2, 0))).toBeLessThan(0.2);
  expect(errorOf(2, 20)).toBeGreaterThan(errorOf(2, 0) + 0.3);
  expect(errorOf(2, 50)).toBeGreaterThan(errorOf(2, 20) + 0.3);
});

test('in a lively ground the same step shows less', () => {
  const lively = ground(3, 0, 60);
  const step = cropImage(ground(4, 20, 60), BOX);
  expect(measureRim(lively, HOLE.data, BOX, step, KERNELS).rimError).toBeLessThan(0.5 * errorOf(2, 20));
});

test('a hole over the whole picture has no rim', () => {
  const all = maskOf(SIZE, SIZE, () => true);
  expect(measureRim(PHOTO, all.data, boundsOf(all), PHOTO, KERNELS).rimError).toBe(0);
});
