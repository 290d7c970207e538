import { pictureOf } from '../../../tests/support/pictures.ts';
import { patchDifference } from './patchDifference.ts';

const rect = { x: 3, y: 4, width: 10, height: 10 };
const patch = (value: number) => [{ rect, image: pictureOf(10, 10, () => [value, value, value]) }];

test('is the mean difference in levels, and 255 where different places were changed', () => {
  expect(patchDifference(patch(10), patch(10))).toBe(0);
  expect(patchDifference(patch(10), patch(16))).toBe(6);
  expect(patchDifference(patch(10), [{ ...patch(10)[0]!, rect: { ...rect, x: 4 } }])).toBe(255);
  expect(patchDifference(patch(10), [])).toBe(255);
});
