import { kernels } from '../../../../tests/support/kernels.ts';
import { differingPixels, maskOf, noise, pictureOf } from '../../../../tests/support/pictures.ts';
import { cropImage, type RasterImage } from '../../../core/image/rasterImage.ts';
import { drain } from '../../../core/progress.ts';
import { composePatches } from '../../composePatches.ts';
import { EMPTY_MARK, type Mark } from '../../marks/markSchema.ts';
import { markFromMask } from '../../marks/renderMark.ts';
import type { StepResult } from '../../computation.ts';
import { lengthen as kind } from './index.ts';
import { computation } from './compute.ts';

const [WIDTH, HEIGHT] = [300, 160];
const isPole = (x: number, y: number) => x < 130 && Math.abs(y - 80) < 9;
/** A spot that the ground around the pole would cover if it came along. */
const isSpot = (x: number, y: number) => Math.hypot(x - 180, y - 104) < 6;

/** A red pole that comes in from the left and ends at x = 130. */
const PHOTO: RasterImage = (() => {
  const grain = noise(3, 6);
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isPole(x, y)) return [190 + g, 50 + g, 40 + g];
    return isSpot(x, y) ? [30 + g, 40 + g, 90 + g] : [130 + g, 150 + g, 110 + g];
  });
})();

const LOOSE: Mark = {
  ...EMPTY_MARK,
  shapes: [{ kind: 'lasso', combine: 'startOver', points: [50, 48, 150, 48, 150, 116, 50, 116] }],
};
const BY = { dxPx: 70, dyPx: 0 };

interface Asked {
  mark?: Mark;
  strategy?: string;
  seed?: number;
  memo?: Map<string, unknown>;
}

function lengthen({ mark = LOOSE, strategy = kind.strategies[0]!, seed = 1, memo = new Map() }: Asked = {}): {
  image: RasterImage;
  result: StepResult;
} {
  const params = kind.schema.parse({ mark, by: BY, take: { strategy, seed } });
  const regions = kind.regions(params, PHOTO).map((rect) => ({ rect, image: cropImage(PHOTO, rect) }));
  const result = drain(computation.apply({ params, photo: PHOTO, regions, inputKey: 'pole', memo, kernels }));
  const image = { ...PHOTO, data: PHOTO.data.slice() };
  composePatches(image, { x: 0, y: 0 }, result.patches);
  return { image, result };
}

const redness = ({ data }: RasterImage, x: number, y: number): number =>
  data[4 * (y * WIDTH + x)]! - data[4 * (y * WIDTH + x) + 1]!;

const isSpotThere = ({ data }: RasterImage): boolean => data[4 * (104 * WIDTH + 180)]! < 60;

test('the pole is carried on by about as much as it was pulled, and the ground beside it stays', () => {
  const { image } = lengthen();
  expect(redness(image, 180, 80)).toBeGreaterThan(80);
  expect(redness(image, 225, 80)).toBeLessThan(20);
  expect(isSpotThere(image)).toBe(true);
  const beside = differingPixels(PHOTO, image, 24).filter((i) => Math.abs(Math.floor(i / WIDTH) - 80) > 14);
  expect(beside).toEqual([]);
});

test('one way of lengthening takes along what lies around it, and is ranked after the same one without', () => {
  const { image, result } = lengthen({ strategy: 'with what lies around it' });
  expect(redness(image, 180, 80)).toBeGreaterThan(80);
  expect(isSpotThere(image)).toBe(false);
  expect(result.rank).toBeGreaterThan(lengthen().result.rank);
});

test('a subject that was found before is carried on as it was found', () => {
  const [found] = markFromMask(maskOf(WIDTH, HEIGHT, (x, y) => x >= 50 && x < 130 && y >= 71 && y < 80)).shapes;
  if (found?.kind !== 'raster') throw new Error('A mask becomes a raster shape.');
  const mark: Mark = { ...EMPTY_MARK, growPx: 12, shapes: [{ ...found, found: 'subject' }] };
  const { image } = lengthen({ mark });
  // Its upper half alone.
  expect(redness(image, 170, 75)).toBeGreaterThan(80);
  expect(redness(image, 170, 85)).toBeLessThan(20);
});

test('the thing is looked for once for all takes of a mark', () => {
  const memo = new Map<string, unknown>();
  const { image } = lengthen({ memo });
  expect(memo.size).toBe(1);
  expect(differingPixels(image, lengthen({ memo }).image)).toEqual([]);
  expect(memo.size).toBe(1);
});

test('another round brings another length', () => {
  expect(differingPixels(lengthen().image, lengthen({ seed: 2 }).image).length).toBeGreaterThan(0);
});

test('an unknown way of lengthening is told with those there are', () => {
  expect(() => lengthen({ strategy: 'sideways' })).toThrow(/"sideways" is not a way of lengthening; use in step, /);
});

test('a mark outside the picture asks for one around the end of the thing', () => {
  const outside: Mark = {
    ...LOOSE,
    shapes: [{ kind: 'lasso', combine: 'startOver', points: [-50, -50, -20, -50, -20, -20] }],
  };
  expect(() => lengthen({ mark: outside })).toThrow(/draw around the end of the thing/);
});
