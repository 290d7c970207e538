import { pictureOf } from '../../../tests/support/pictures.ts';
import { FingoError } from '../errors.ts';
import { cropImage, pasteImage, requireSameSize } from './rasterImage.ts';

test('what a crop takes from beyond the picture is transparent, and pasting it back changes nothing inside', () => {
  const image = pictureOf(4, 3, (x, y) => [x, y, 9]);
  const crop = cropImage(image, { x: 2, y: -1, width: 4, height: 3 });
  expect(Array.from(crop.data.subarray(0, 4))).toEqual([0, 0, 0, 0]);
  expect(Array.from(crop.data.subarray(4 * 4, 4 * 4 + 4))).toEqual([2, 0, 9, 255]);
  const out = pictureOf(4, 3, () => [0, 0, 0]);
  pasteImage(out, { x: 2, y: -1 }, crop);
  expect(Array.from(out.data.subarray(8, 12))).toEqual([2, 0, 9, 255]);
  expect(Array.from(out.data.subarray(0, 4))).toEqual([0, 0, 0, 255]);
});

test('sizes that differ are told with both sizes', () => {
  expect(() => requireSameSize({ width: 2, height: 3 }, { width: 3, height: 2 }, 'The mark')).toThrow(
    new FingoError('size-mismatch', "The mark is 3 x 2 px but the picture is 2 x 3 px; use one of the picture's size."),
  );
});
