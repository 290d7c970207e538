import { maskOf } from '../../../tests/support/pictures.ts';
import { areaOf } from '../../core/mask/mask.ts';
import { markFrame, markFromMask, maskUnder, renderMark } from './renderMark.ts';
import { EMPTY_MARK, markSchema, type Mark, type MarkShape } from './markSchema.ts';
import { outlineMark } from './outlineMark.ts';
import { shareOfPicture } from './shareOfPicture.ts';

const PHOTO = { width: 300, height: 200 };

const square = (x: number, y: number, side: number, combine: MarkShape['combine'] = 'also'): MarkShape => ({
  kind: 'lasso',
  combine,
  points: [x, y, x + side, y, x + side, y + side, x, y + side],
});
const markOf = (...shapes: MarkShape[]): Mark => ({ ...EMPTY_MARK, shapes });

test('shapes are combined in their order, a start over forgets what came before', () => {
  const mark = markOf(
    square(0, 0, 50),
    square(100, 100, 20, 'startOver'),
    square(110, 110, 40),
    square(110, 110, 5, 'without'),
  );
  const { rect, mask } = renderMark(mark, PHOTO);
  expect(areaOf(mask)).toBe(400 + 1600 - 100 - 25);
  expect(rect.x).toBeGreaterThan(90);
});

test('a mark grown by px is larger by its outline times the px', () => {
  const grown = renderMark({ ...markOf(square(100, 50, 40)), growPx: 5 }, PHOTO);
  // Area + outline x 5 + a quarter circle at each corner.
  expect(Math.abs(areaOf(grown.mask) - (1600 + 160 * 5 + Math.PI * 25))).toBeLessThan(25);
});

test('whatever a mark covers lies in its frame, and beyond the photo nothing is marked', () => {
  const mark = { ...markOf(square(-30, 180, 60)), growPx: 8, smoothPx: 4 };
  const frame = markFrame(mark, PHOTO);
  expect(frame.x).toBe(0);
  expect(frame.y + frame.height).toBe(200);
  const all = maskUnder(renderMark(mark, PHOTO), { x: 0, y: 0, ...PHOTO });
  for (let i = 0; i < all.data.length; i++) {
    if (!all.data[i]) continue;
    expect(i % 300).toBeLessThan(frame.x + frame.width);
    expect(Math.floor(i / 300)).toBeGreaterThanOrEqual(frame.y);
  }
});

test('a mask picture becomes a mark that gives the same mask back', () => {
  const mask = maskOf(300, 200, (x, y) => (x * 7 + y * 3) % 11 < 4 && x > 40 && x < 90 && y > 20);
  mask.data[50 * 300 + 60] = 77;
  const mark = markSchema.parse(JSON.parse(JSON.stringify(markFromMask(mask))));
  expect(maskUnder(renderMark(mark, PHOTO), { x: 0, y: 0, ...PHOTO }).data).toEqual(mask.data);
});

test('a damaged mask in a recipe is told in a sentence', () => {
  const mark = markFromMask(maskOf(300, 200, (x) => x < 20));
  const shape = mark.shapes[0] as Extract<MarkShape, { kind: 'raster' }>;
  const broken = markOf({ ...shape, deflated: btoa('not deflated at all') });
  expect(() => renderMark(broken, PHOTO)).toThrow(/damaged; save the recipe again/);
});

test('the outline runs around what is marked and its area is told', () => {
  const outline = outlineMark(markOf(square(100, 50, 40)), PHOTO);
  expect(outline.areaPx).toBe(1600);
  expect(outline.box).toEqual({ x: 100, y: 50, width: 40, height: 40 });
  const [ring] = outline.solid;
  for (let i = 0; i < ring!.length; i += 2) {
    const onSide = [ring![i]! - 100, ring![i]! - 140, ring![i + 1]! - 50, ring![i + 1]! - 90].some(
      (d) => Math.abs(d) <= 1,
    );
    expect(onSide).toBe(true);
  }
  expect(outlineMark(EMPTY_MARK, PHOTO).solid).toEqual([]);
  expect(shareOfPicture(1600, PHOTO)).toBe('2.7 % of the picture');
  expect(shareOfPicture(1, PHOTO)).toBe('0.1 % of the picture');
});

test('an inverted mark is everything else, a band only the outline', () => {
  const inverted = renderMark({ ...markOf(square(100, 50, 40)), inverted: true }, PHOTO);
  expect(areaOf(inverted.mask)).toBe(300 * 200 - 1600);
  const band = renderMark({ ...markOf(square(100, 50, 40)), bandPx: 5 }, PHOTO);
  // Outline x 10 px, with round corners outside.
  expect(Math.abs(areaOf(band.mask) - (1600 + 160 * 5 + Math.PI * 25 - 30 * 30))).toBeLessThan(40);
  const all = maskUnder(band, { x: 0, y: 0, ...PHOTO });
  expect([all.data[70 * 300 + 120], all.data[70 * 300 + 101]]).toEqual([0, 255]);
});
