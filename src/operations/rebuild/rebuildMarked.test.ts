import { kernels } from '../../../tests/support/kernels.ts';
import { differingPixels, maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage } from '../../core/image/rasterImage.ts';
import { drain } from '../../core/progress.ts';
import { EMPTY_MARK, type Mark } from '../marks/markSchema.ts';
import { markFromMask } from '../marks/renderMark.ts';
import { movedPlane } from './movedPlane.ts';
import { linesIn, planesIn, rebuildKey, rebuildMarked, reportOf, without } from './rebuildMarked.ts';
import { rebuildRegion } from './rebuildRegion.ts';
import type { PlaneParams } from './rebuildSchema.ts';
import { SKETCH_OF_LINES } from './sketchOfLines.ts';

const [WIDTH, HEIGHT] = [160, 120];
const grain = noise(6, 8);
const PHOTO = pictureOf(WIDTH, HEIGHT, (_, y) => {
  const value = (y % 12 < 2 ? 80 : 170) + grain();
  return [value, value, value];
});
const MARK: Mark = {
  ...EMPTY_MARK,
  shapes: [{ kind: 'lasso', combine: 'startOver', points: [60, 40, 100, 40, 100, 80, 60, 80] }],
};
const PARAMS = { mark: MARK, closeness: 50, take: { strategy: 'fine pieces', seed: 1 } };

const rebuilt = (params: Parameters<typeof rebuildMarked>[0], memo = new Map<string, unknown>()) => {
  const rect = rebuildRegion(params, PHOTO);
  return drain(rebuildMarked(params, PHOTO, { rect, image: cropImage(PHOTO, rect) }, 'photo', memo, kernels));
};

test('a place is rebuilt once for the same question, and anew for another take or closeness', () => {
  const memo = new Map<string, unknown>();
  const first = rebuilt(PARAMS, memo);
  expect(rebuilt(PARAMS, memo)).toBe(first);
  const other = rebuilt({ ...PARAMS, take: { strategy: 'fine pieces', seed: 2 } }, memo);
  expect(differingPixels(other.image, first.image).length).toBeGreaterThan(0);
  const rect = rebuildRegion(PARAMS, PHOTO);
  expect(rebuildKey({ ...PARAMS, closeness: 75 }, rect, 'photo')).not.toBe(rebuildKey(PARAMS, rect, 'photo'));
  expect(rebuildKey(PARAMS, rect, 'another')).not.toBe(rebuildKey(PARAMS, rect, 'photo'));
});

test('what is protected keeps its pixels while the rest of the mark is rebuilt', () => {
  const protect = markFromMask(maskOf(WIDTH, HEIGHT, (x, y) => x < 76 && y < 60));
  const { box, image } = rebuilt({ ...PARAMS, protect });
  const rect = rebuildRegion(PARAMS, PHOTO);
  const before = cropImage(PHOTO, { ...box, x: box.x + rect.x, y: box.y + rect.y });
  const changed = differingPixels(before, image);
  expect(changed.length).toBeGreaterThan(300);
  for (const i of changed) {
    const [x, y] = [box.x + rect.x + (i % box.width), box.y + rect.y + Math.floor(i / box.width)];
    expect(x >= 76 || y >= 60).toBe(true);
  }
});

test('a way of rebuilding that is not known is told with those there are', () => {
  const params = { ...PARAMS, take: { strategy: 'by magic', seed: 1 } };
  expect(() => rebuilt(params)).toThrow(/"by magic" is not a way of rebuilding; use large pieces, /);
});

test('an empty donor area asks to paint one', () => {
  const donors: Mark = { ...MARK, shapes: [{ ...MARK.shapes[0]!, points: [-90, -90, -80, -90, -80, -80] } as never] };
  expect(() => rebuildRegion({ mark: MARK, donors }, PHOTO)).toThrow(/paint where new pixels may come from/);
});

test('nothing of what is kept stays in a mask, however faint it is there', () => {
  const mask = { width: 3, height: 1, data: Uint8Array.of(255, 200, 90) };
  expect(Array.from(without(mask, { ...mask, data: Uint8Array.of(0, 1, 255) }).data)).toEqual([255, 0, 0]);
});

test('planes set by hand are used where they are on and make sense, in the region’s own px', () => {
  const corners = [
    { x: 10, y: 10 },
    { x: 50, y: 12 },
    { x: 60, y: 40 },
    { x: 5, y: 42 },
  ] as unknown as PlaneParams['corners'];
  const crossed = [corners[0], corners[2], corners[1], corners[3]] as unknown as PlaneParams['corners'];
  const planes = [
    { corners, on: true },
    { corners, on: false },
    { corners: crossed, on: true },
  ];
  const used = planesIn(planes, { x: 4, y: 6, width: 80, height: 60 });
  expect(used).toHaveLength(1);
  expect(used[0]!.corners[0]).toEqual({ x: 6, y: 4 });
  expect(movedPlane(used[0]!, 4, 6).corners).toEqual(corners);
});

test('a result tells in photo px what it used', () => {
  const fill = rebuilt(PARAMS);
  const report = reportOf(fill, { x: 30, y: 20, width: 100, height: 100 });
  expect(report.used).toMatchObject({ x: 30, y: 20, side: fill.used.side });
  expect(report.poorSurroundings).toBe(false);
  expect(report.growthAdvisedPx).toBe(fill.growthAdvised);
});

test('lines set by hand are drawn where they are on, in the region’s own px', () => {
  const line = { points: [10, 90].map((x) => ({ x, y: 30 })), widthsPx: [2, 3] as [number, number], on: true };
  const used = linesIn([line, { ...line, on: false }], { x: 4, y: 6, width: 80, height: 60 });
  expect(used).toEqual([{ points: [6, 86].map((x) => ({ x, y: 24 })), widths: [2, 3] }]);
});

test('a sketch draws the lines that run on and leaves the rest of the mark as it is', () => {
  // The boards’ joints are hidden by a grey lid.
  const lidded = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const value = x >= 60 && x < 100 && y >= 40 && y < 80 ? 128 : y % 12 < 2 ? 80 : 170;
    return [value, value, value];
  });
  const rect = { x: 0, y: 0, width: WIDTH, height: HEIGHT };
  const sketched = (runOn?: { points: { x: number; y: number }[]; widthsPx: [number, number]; on: boolean }[]) =>
    drain(
      rebuildMarked(
        { ...PARAMS, ...(runOn && { runOn }), take: SKETCH_OF_LINES },
        lidded,
        { rect, image: lidded },
        'lidded',
        new Map(),
        kernels,
      ),
    );
  const { box, image } = sketched([{ points: [50, 110].map((x) => ({ x, y: 61 })), widthsPx: [2, 2], on: true }]);
  const levelAt = (x: number, y: number): number => image.data[4 * ((y - box.y) * box.width + x - box.x)]!;
  expect(Math.abs(levelAt(80, 61) - 80)).toBeLessThan(25);
  expect(levelAt(80, 48)).toBe(128);
  expect(differingPixels(sketched([]).image, cropImage(lidded, box))).toEqual([]);
});

test('a sketch of a mark that is protected wholly is refused as a rebuild is', () => {
  const protect = markFromMask(maskOf(WIDTH, HEIGHT, () => true));
  expect(() => rebuilt({ ...PARAMS, protect, take: SKETCH_OF_LINES })).toThrow(/Nothing is marked/);
});
