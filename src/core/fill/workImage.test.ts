import { kernels } from '../../../tests/support/kernels.ts';
import { pictureOf } from '../../../tests/support/pictures.ts';
import { makeWorkImage } from './workImage.ts';

test('a work pixel is the mean of its known pixels, hole if any is, usable only if all are', () => {
  const image = pictureOf(4, 2, (x) => (x < 2 ? [10, 10, 10] : [200, 200, 200]));
  const hole = Uint8Array.from([0, 0, 1, 0, 0, 0, 0, 0]);
  image.data.set([255, 0, 255], 4 * 2);
  const usable = Uint8Array.from([255, 255, 0, 255, 255, 0, 255, 255]);
  const work = makeWorkImage(image, hole, usable, 2, 0, kernels);
  expect([work.width, work.height]).toEqual([2, 1]);
  expect(Array.from(work.hole)).toEqual([0, 1]);
  expect(Array.from(work.usable)).toEqual([0, 0]);
  // Magenta in the hole must not be averaged in; grey has Cb = Cr = 128.
  expect(Array.from(work.features.subarray(0, 3))).toEqual([10, 128, 128]);
  expect(Array.from(work.features.subarray(4, 7))).toEqual([200, 128, 128]);
});

test('texture that the reduction averages away is told by T', () => {
  const striped = pictureOf(32, 8, (x, y) => {
    const value = x < 16 ? 100 : (x + y) % 2 ? 80 : 120;
    return [value, value, value];
  });
  const none = new Uint8Array(256);
  const work = makeWorkImage(striped, none, undefined, 4, 1, kernels);
  expect(work.features[4 * 0]).toBe(work.features[4 * 7]);
  expect(work.features[4 * 7 + 3]!).toBeGreaterThan(work.features[3]! + 20);
});
