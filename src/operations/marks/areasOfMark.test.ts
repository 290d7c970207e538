import { maskOf } from '../../../tests/support/pictures.ts';
import { areasOfMark } from './areasOfMark.ts';
import type { Mark, MarkShape } from './markSchema.ts';
import { markFromMask, maskUnder, renderMark } from './renderMark.ts';
import { subjectOfMark } from './subjectOfMark.ts';

const PHOTO = { width: 200, height: 120 };
const WHOLE = { x: 0, y: 0, ...PHOTO };

const raster = (is: (x: number, y: number) => boolean, found?: 'subject' | 'shadow'): MarkShape => {
  const [shape] = markFromMask(maskOf(PHOTO.width, PHOTO.height, is)).shapes;
  return { ...shape!, combine: 'also', ...(found && { found }) } as MarkShape;
};
const disc = (cx: number, cy: number, radius: number) => (x: number, y: number) =>
  (x - cx) ** 2 + (y - cy) ** 2 < radius ** 2;
const bytesOf = (mark: Mark) => maskUnder(renderMark(mark, PHOTO), WHOLE).data;

const [LARGE, SMALL] = [disc(50, 60, 30), disc(150, 50, 15)];
const SHADOW = (x: number, y: number) => y >= 70 && y < 78 && x >= 150 && x < 190;
const marking = (...shapes: MarkShape[]): Mark => ({ shapes, growPx: 8, smoothPx: 0, featherPx: 0 });

test('areas one by one cover what the mark covers, and subjects and shadows stay what they were found to be', () => {
  const mark = marking(raster(LARGE, 'subject'), raster(SMALL, 'subject'), raster(SHADOW, 'shadow'));
  const areas = areasOfMark(mark, PHOTO);
  expect(areas).toHaveLength(2);
  const [large, small] = areas.map(bytesOf);
  expect(large!.map((value, i) => Math.max(value, small![i]!))).toEqual(bytesOf(mark));
  expect(small!.some((value, i) => value > 0 && large![i]! > 0)).toBe(false);
  const outlines = areas.map((area) => bytesOf(subjectOfMark(area)!.outline));
  expect(outlines[0]).toEqual(maskOf(PHOTO.width, PHOTO.height, LARGE).data);
  expect(outlines[1]).toEqual(maskOf(PHOTO.width, PHOTO.height, SMALL).data);
});

test('what was drawn around a found subject is looked at whole, in the area that it lies in', () => {
  const loop = disc(50, 60, 36);
  const [first, second] = areasOfMark(marking(raster(LARGE, 'subject'), raster(loop), raster(SMALL)), PHOTO);
  expect(bytesOf({ ...subjectOfMark(first!)!.loose!, growPx: 0 })).toEqual(
    maskOf(PHOTO.width, PHOTO.height, loop).data,
  );
  expect(subjectOfMark(second!)).toBeUndefined();
});

test('without a found subject, and shrunk, areas are what is seen of them', () => {
  for (const mark of [marking(raster(LARGE), raster(SMALL)), { ...marking(raster(LARGE, 'subject')), growPx: -4 }]) {
    const areas = areasOfMark(mark, PHOTO);
    const all = areas.map(bytesOf).reduce((a, b) => a.map((value, i) => Math.max(value, b[i]!)));
    expect(all).toEqual(bytesOf(mark));
    expect(areas.every(({ growPx }) => growPx === 0)).toBe(true);
  }
});
