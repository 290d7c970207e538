import { maskFromRows } from '../../../tests/support/pictures.ts';
import { combineMasks } from './combine.ts';
import { areaOf, boundsOf, createMask, cropMask } from './mask.ts';

test('bounds hold every marked pixel and nothing else', () => {
  expect(boundsOf(maskFromRows('.....', '..#..', '.#...', '.....'))).toEqual({ x: 1, y: 1, width: 2, height: 2 });
  // Wherever a pixel lies, sizes that are no multiple of four among them.
  for (const [width, height] of [
    [5, 5],
    [7, 3],
    [1, 6],
  ] as const) {
    for (let i = 0; i < width * height; i++) {
      const mask = createMask(width, height);
      mask.data[i] = 1;
      expect(boundsOf(mask)).toEqual({ x: i % width, y: Math.floor(i / width), width: 1, height: 1 });
    }
  }
  expect(boundsOf(createMask(3, 3)).width).toBe(0);
});

test('a crop that reaches beyond the mask is unmarked there', () => {
  const crop = cropMask(maskFromRows('##', '##'), { x: 1, y: 1, width: 2, height: 2 });
  expect(Array.from(crop.data)).toEqual([255, 0, 0, 0]);
});

test('a half-marked pixel counts half', () => {
  const mask = createMask(2, 1);
  mask.data.set([255, 51]);
  expect(areaOf(mask)).toBeCloseTo(1.2, 6);
});

test('shapes combine as the words say', () => {
  const a = createMask(4, 1);
  const b = createMask(4, 1);
  a.data.set([0, 255, 255, 100]);
  b.data.set([255, 255, 0, 60]);
  const result = (how: Parameters<typeof combineMasks>[2]) => Array.from(combineMasks(a, b, how).data);
  expect(result('startOver')).toEqual([255, 255, 0, 60]);
  expect(result('also')).toEqual([255, 255, 255, 100]);
  expect(result('without')).toEqual([0, 0, 255, 100]);
  expect(result('onlyBoth')).toEqual([0, 255, 0, 60]);
});
