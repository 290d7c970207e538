import { pictureOf } from '../../../tests/support/pictures.ts';
import { addBicubicBytes, samplesAlong } from './bicubicSample.ts';

const ramp = pictureOf(12, 10, (x, y) => [10 * x, 20 * y, 5 * x + 5 * y]);
const at = (x: number, y: number, weight = 1): number[] => {
  const sum = new Float32Array(3);
  addBicubicBytes(ramp.data, 12, 10, x, y, weight, sum);
  return Array.from(sum, (value) => Math.round(1000 * value) / 1000);
};

test('at the middle of a pixel its own value comes out, between pixels a ramp goes on', () => {
  expect(at(4.5, 3.5)).toEqual([40, 60, 35]);
  expect(at(5.25, 4)).toEqual([47.5, 70, 41.25]);
});

test('edges are repeated beyond the picture', () => {
  expect(at(-20, 3.5)).toEqual([0, 60, 15]);
  expect(at(40, 3.5)).toEqual([110, 60, 70]);
});

test('samples are added up with their weights', () => {
  const sum = new Float32Array(3);
  addBicubicBytes(ramp.data, 12, 10, 2.5, 2.5, 0.25, sum);
  addBicubicBytes(ramp.data, 12, 10, 6.5, 2.5, 0.75, sum);
  expect(sum[0]).toBeCloseTo(0.25 * 20 + 0.75 * 60);
});

test('the larger an area is at its source, the more samples are taken of it, four by four at most', () => {
  expect([0.2, 1, 4, 9, 400].map(samplesAlong)).toEqual([1, 1, 2, 3, 4]);
});
