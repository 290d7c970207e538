import { placementToAffine } from './affine.ts';
import { resampleAffine, type Planes } from './resample.ts';

const ramp: Planes = {
  width: 6,
  height: 4,
  channels: 1,
  data: Float32Array.from({ length: 24 }, (_, i) => (i % 6) * 10),
};
const shift = (dxPx: number, scale = 1) =>
  placementToAffine({ dxPx, dyPx: 0, scale, turn: 0, mirror: 'none' }, { x: 3, y: 2 });

test('a shift by whole pixels copies values unchanged, and nothing comes in from outside', () => {
  const moved = resampleAffine(ramp, { x: 0, y: 0 }, shift(2), { x: 0, y: 0, width: 8, height: 4 });
  expect(Array.from(moved.data.subarray(0, 8))).toEqual([0, 0, 0, 10, 20, 30, 40, 50]);
});

test('a shift by half a pixel lies halfway on a ramp', () => {
  const moved = resampleAffine(ramp, { x: 0, y: 0 }, shift(0.5), { x: 2, y: 1, width: 2, height: 1 });
  expect(moved.data[0]).toBeCloseTo(15, 5);
  expect(moved.data[1]).toBeCloseTo(25, 5);
});

test('reducing averages instead of skipping: stripes of one pixel become their mean', () => {
  const stripes: Planes = {
    width: 32,
    height: 32,
    channels: 1,
    data: Float32Array.from({ length: 1024 }, (_, i) => (i % 2) * 100),
  };
  const toQuarter = placementToAffine({ dxPx: 0, dyPx: 0, scale: 0.25, turn: 0, mirror: 'none' }, { x: 16, y: 16 });
  const small = resampleAffine(stripes, { x: 0, y: 0 }, toQuarter, { x: 14, y: 14, width: 4, height: 4 });
  for (const value of small.data) expect(Math.abs(value - 50)).toBeLessThan(8);
});
