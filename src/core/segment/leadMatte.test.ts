import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { leadMatte } from './leadMatte.ts';

const SIDE = 160;
const FACTOR = 8;
const grain = noise(8, 4);
/** A light disc of radius 44 on a dark ground. */
const radius = (x: number, y: number): number => Math.hypot(x + 0.5 - 80, y + 0.5 - 80);
const photo = pictureOf(SIDE, SIDE, (x, y) => {
  const value = (radius(x, y) < 44 ? 200 : 60) + grain();
  return [value, value, value];
});
const everywhere = maskOf(SIDE, SIDE, () => true);
const small = {
  width: SIDE / FACTOR,
  height: SIDE / FACTOR,
  factor: FACTOR,
  // Found on cells of 8 px, a little too large all around.
  values: Float32Array.from({ length: (SIDE / FACTOR) ** 2 }, (_, i) =>
    radius(FACTOR * (i % 20) + 3.5, FACTOR * Math.floor(i / 20) + 3.5) < 47 ? 1 : 0,
  ),
};
const matte = leadMatte(photo, everywhere, small, createTwinKernels());
const share = (test: (x: number, y: number) => boolean, isIn: (value: number) => boolean): number => {
  let [all, found] = [0, 0];
  matte.data.forEach((value, i) => {
    if (!test(i % SIDE, Math.floor(i / SIDE))) return;
    all++;
    if (isIn(value)) found++;
  });
  return found / all;
};

test('the edge found on coarse cells is led onto the photo’s own, to within two px', () => {
  expect(
    share(
      (x, y) => radius(x, y) < 42,
      (value) => value > 200,
    ),
  ).toBeGreaterThan(0.98);
  expect(
    share(
      (x, y) => radius(x, y) > 46,
      (value) => value < 55,
    ),
  ).toBeGreaterThan(0.98);
});

test('nothing outside the mark is in the matte, nor more of a pixel than is marked', () => {
  const half = { ...everywhere, data: everywhere.data.map((_, i) => (i % SIDE < 80 ? 255 : i % SIDE < 100 ? 128 : 0)) };
  const { data } = leadMatte(photo, half, small, createTwinKernels());
  expect(data[80 * SIDE + 60]).toBeGreaterThan(200);
  expect(data[80 * SIDE + 90]).toBe(128);
  expect(data[80 * SIDE + 110]).toBe(0);
});
