import { blurPlane } from './boxBlur.ts';

test('one pass of radius 1 is the mean of three by three', () => {
  const plane = new Float32Array(25);
  plane[12] = 9;
  const blurred = blurPlane(plane, 5, 5, 1, 1);
  expect(Array.from(blurred.subarray(5, 10))).toEqual([0, 1, 1, 1, 0]);
  expect(blurred[12]).toBeCloseTo(1, 6);
});

test('a fractional radius weighs the outermost pixels', () => {
  const plane = new Float32Array(7);
  plane[3] = 2;
  const [, far, near, middle] = blurPlane(plane, 7, 1, 0.5, 1);
  // Width 2: the middle counts 1/2, its neighbours 1/4 each, but in height the edge repeats.
  expect([far, near, middle]).toEqual([0, 0.5, 1]);
});

test('an even plane stays even, borders included', () => {
  const blurred = blurPlane(new Float32Array(35).fill(7), 7, 5, 2.3, 3);
  for (const value of blurred) expect(value).toBeCloseTo(7, 4);
});
