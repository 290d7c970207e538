import { kernels } from '../../../tests/support/kernels.ts';
import { indexLevel } from './level.ts';
import { buildPyramid } from './pyramid.ts';

const pixels = (width: number, height: number, isHole: (x: number, y: number) => boolean) => {
  const hole = Uint8Array.from({ length: width * height }, (_, i) =>
    isHole(i % width, Math.floor(i / width)) ? 1 : 0,
  );
  return { width, height, features: new Uint8Array(4 * hole.length), hole, usable: hole.map((h) => 1 - h) };
};

test('depth counts layers from the rim', () => {
  const square = pixels(5, 5, (x, y) => x > 0 && x < 4 && y > 0 && y < 4);
  expect(Array.from(indexLevel(square, 0, kernels.scratch).depth.subarray(10, 15))).toEqual([0, 1, 2, 1, 0]);
});

test('targets are the whole patches that touch the hole, donors those that do not', () => {
  const level = indexLevel(
    pixels(20, 9, (x, y) => x === 3 && y === 4),
    0,
    kernels.scratch,
  );
  // Centres lie 3 px from every edge: rows 3 to 5; the hole at x = 3 is within 3 px for x = 3 to 6.
  expect(level.targets.length).toBe(3 * 4);
  expect(level.donors.length).toBe(3 * (14 - 4));
  expect(level.donors.every((donor) => !level.isTarget[donor])).toBe(true);
});

test('the pyramid halves while sides and hole allow it, and is empty without a donor', () => {
  const square = pixels(300, 260, (x, y) => x > 100 && x < 180 && y > 80 && y < 160);
  const levels = buildPyramid(square, 4, 60, kernels);
  expect(levels.map((level) => level.width)).toEqual([300, 150, 75]);
  // A row there is two rows here.
  expect(levels.map((level) => level.heightWeight)).toEqual([4, 8, 16]);
  expect(buildPyramid(square, 4, 90, kernels).map((level) => level.width)).toEqual([300, 150]);
  expect(
    buildPyramid(
      pixels(64, 64, () => true),
      0,
      60,
      kernels,
    ),
  ).toEqual([]);
});
