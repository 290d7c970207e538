import { levelOf } from '../../../tests/support/levels.ts';
import { previewOf } from './preview.ts';

const isHole = (x: number, y: number): boolean => x >= 12 && x < 16 && y >= 9 && y < 12;
const level = levelOf(30, 24, (x) => 100 + x, isHole);

test('a level is shown over the place it stands for, in colour where it is rebuilt and clear elsewhere', () => {
  // Blue by 20 levels more than its luma, red by 10 less.
  for (const pixel of level.holePixels) {
    level.features[4 * pixel + 1] = 128 + Math.round(0.564 * 20);
    level.features[4 * pixel + 2] = 128 - Math.round(0.713 * 10);
  }
  const { rect, image } = previewOf(level, 4, { x: 46, y: 36, width: 20, height: 10 });
  expect(rect).toEqual({ x: 44, y: 36, width: 24, height: 12 });
  expect([image.width, image.height]).toEqual([6, 3]);
  const [red, green, blue, alpha] = image.data.subarray(4, 8);
  expect(alpha).toBe(255);
  expect(Math.abs(red! - (112 - 10))).toBeLessThanOrEqual(1);
  expect(Math.abs(blue! - (112 + 20))).toBeLessThanOrEqual(1);
  // BT.601: what green must be for that luma.
  expect(Math.abs(green! - (112 - 0.299 * 102 - 0.114 * 132) / 0.587)).toBeLessThanOrEqual(2);
  expect([image.data[3], image.data[4 * 5 + 3]]).toEqual([0, 0]);
});

test('a place at the level’s edge is shown as far as the level goes', () => {
  const { rect, image } = previewOf(level, 4, { x: 100, y: 80, width: 20, height: 16 });
  expect(rect).toEqual({ x: 100, y: 80, width: 20, height: 16 });
  expect([image.width, image.height]).toEqual([5, 4]);
});
