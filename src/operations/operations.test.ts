import { kernels } from '../../tests/support/kernels.ts';
import { differingPixels, maskOf, noise, pictureOf } from '../../tests/support/pictures.ts';
import { cropImage, type RasterImage } from '../core/image/rasterImage.ts';
import { drain } from '../core/progress.ts';
import { composePatches } from './composePatches.ts';
import { OPERATIONS, operationOf } from './catalogue.ts';
import { markFromMask, maskUnder, renderMark } from './marks/renderMark.ts';
import { EMPTY_MARK, type Mark } from './marks/markSchema.ts';
import type { StepResult } from './operation.ts';

const [WIDTH, HEIGHT] = [260, 180];
const isDisc = (x: number, y: number) => (x - 70) ** 2 + (y - 90) ** 2 < 18 ** 2;

/** A red disc on a striped ground. */
const PHOTO: RasterImage = (() => {
  const grain = noise(8, 5);
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isDisc(x, y)) return [190 + g, 40 + g, 40 + g];
    const value = (y % 14 < 2 ? 70 : 160) + g;
    return [value, value, value * 0.8];
  });
})();

const MARK: Mark = {
  ...EMPTY_MARK,
  shapes: [{ kind: 'stroke', combine: 'startOver', points: [70, 90], radiusPx: 28, hardness: 1, intensity: 1 }],
};
const TO_THE_RIGHT = { dxPx: 110, dyPx: 10, scale: 1, turn: 0, mirror: 'none' as const };

function apply(type: string, extra: Record<string, unknown>, strategy?: string): StepResult {
  const operation = operationOf(type);
  const take = { strategy: strategy ?? operation.strategies[0]!, seed: 1 };
  const params = operation.schema.parse({ mark: MARK, take, ...extra });
  const regions = operation.regions(params, PHOTO).map((rect) => ({ rect, image: cropImage(PHOTO, rect) }));
  return drain(
    operation.apply({ params, photo: PHOTO, regions, inputKey: 'photo', memo: new Map<string, unknown>(), kernels }),
  );
}

function composed(result: StepResult): RasterImage {
  const out = { ...PHOTO, data: PHOTO.data.slice() };
  composePatches(out, { x: 0, y: 0 }, result.patches);
  return out;
}

const isRed = (image: RasterImage, x: number, y: number) => {
  const i = 4 * (y * WIDTH + x);
  return image.data[i]! > image.data[i + 1]! + 70;
};
const countRed = (image: RasterImage) =>
  Array.from({ length: WIDTH * HEIGHT }, (_, i) => isRed(image, i % WIDTH, Math.floor(i / WIDTH))).filter(Boolean)
    .length;

const marked = maskUnder(renderMark(MARK, PHOTO), { x: 0, y: 0, width: WIDTH, height: HEIGHT });
const landed = maskOf(WIDTH, HEIGHT, (x, y) => x >= 110 && y >= 10 && marked.data[(y - 10) * WIDTH + x - 110]! > 0);

test('Clear takes the disc out and changes nothing outside the mark', () => {
  const image = composed(apply('clear', {}));
  expect(countRed(image)).toBe(0);
  expect(differingPixels(PHOTO, image).every((i) => marked.data[i]! > 0)).toBe(true);
});

test('Move puts the disc’s own pixels at the new place, empties the old one, and changes nothing else', () => {
  const image = composed(apply('move', { placement: TO_THE_RIGHT }));
  expect(isRed(image, 70, 90)).toBe(false);
  for (const [x, y] of [
    [70, 90],
    [64, 84],
    [75, 99],
  ] as const) {
    const from = 4 * (y * WIDTH + x);
    const to = 4 * ((y + 10) * WIDTH + x + 110);
    expect(Array.from(image.data.subarray(to, to + 4))).toEqual(Array.from(PHOTO.data.subarray(from, from + 4)));
  }
  expect(differingPixels(PHOTO, image).every((i) => marked.data[i]! > 0 || landed.data[i]! > 0)).toBe(true);
});

test('Duplicate leaves the old place exactly as it was', () => {
  const image = composed(apply('duplicate', { placement: TO_THE_RIGHT }));
  expect(isRed(image, 180, 100)).toBe(true);
  expect(differingPixels(PHOTO, image).every((i) => landed.data[i]! > 0)).toBe(true);
});

test('a place that overlaps the old one works: a short move leaves one disc', () => {
  const image = composed(apply('move', { placement: { ...TO_THE_RIGHT, dxPx: 20, dyPx: 0 } }));
  expect(isRed(image, 90, 90)).toBe(true);
  expect(isRed(image, 54, 90)).toBe(false);
  expect(Math.abs(countRed(image) / countRed(PHOTO) - 1)).toBeLessThan(0.1);
});

test('closeness changes what a rebuilt place is made of', () => {
  const [loose, close] = [0, 100].map((closeness) => composed(apply('clear', { closeness })));
  expect(differingPixels(loose!, close!, 2).length).toBeGreaterThan(100);
});

test('the takes of each kind of step differ from one another', () => {
  for (const { type, strategies } of OPERATIONS) {
    const [first, second] = strategies
      .slice(0, 2)
      .map((name) => composed(apply(type, { placement: TO_THE_RIGHT }, name)));
    expect(differingPixels(first!, second!, 2).length).toBeGreaterThan(50);
  }
});

test('what can’t be done is told: outside the picture, nothing marked, an unknown way of rebuilding', () => {
  expect(() => apply('move', { placement: { ...TO_THE_RIGHT, dxPx: 5000 } })).toThrow(/drag the subject back/);
  expect(() => apply('clear', { mark: EMPTY_MARK })).toThrow(/Nothing is marked/);
  expect(() => apply('clear', {}, 'by magic')).toThrow(/not a way of rebuilding/);
  expect(() => apply('clear', { donors: EMPTY_MARK })).toThrow(/donor area is empty/);
});

test('what is protected stays to the pixel, though it is marked', () => {
  const kept = maskOf(WIDTH, HEIGHT, (x, y) => (x - 70) ** 2 + (y - 90) ** 2 < 6 ** 2);
  const image = composed(apply('clear', { protect: markFromMask(kept) }));
  const changed = new Set(differingPixels(PHOTO, image));
  kept.data.forEach((value, i) => value && expect(changed.has(i)).toBe(false));
  expect(changed.size).toBeGreaterThan(500);
});

test('a cleared place tells where it came from and on which planes', () => {
  const { report } = apply('clear', { planes: [] });
  expect(report!.planes).toEqual([]);
  expect(report!.used.cells.some((cell) => cell === 1)).toBe(true);
  expect(report!.growthAdvisedPx).toBe(0);
});
