import { interpolated, interpolation } from './interpolate.ts';

const PLANE = Float32Array.of(0, 10, 20, 100, 110, 120);
const valueAt = (x: number, y: number): number => interpolated(PLANE, 3, interpolation(x, 3), interpolation(y, 2));

test('at the centres of cells a plane has their values, between them those in proportion', () => {
  expect([valueAt(0, 0), valueAt(2, 1)]).toEqual([0, 120]);
  expect(valueAt(0.25, 0)).toBeCloseTo(2.5, 6);
  expect(valueAt(1.5, 0.5)).toBeCloseTo(65, 6);
});

test('outside the plane the nearest cell counts', () => {
  expect(valueAt(-3, -1)).toBe(0);
  expect(valueAt(7, 0.5)).toBeCloseTo(70, 6);
  expect(interpolation(2, 3)).toEqual({ low: 2, high: 2, share: 0 });
});
