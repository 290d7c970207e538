import { kernels } from '../../../tests/support/kernels.ts';
import { colouredSphere } from '../../../tests/support/sphere.ts';
import { drain } from '../../core/progress.ts';
import { sphereToView } from '../../core/sphere/sphereView.ts';
import { wholeOf } from '../../core/image/rect.ts';
import { markSchema, type Mark } from '../marks/markSchema.ts';
import { maskUnder, renderMark } from '../marks/renderMark.ts';
import { gapAround, gapReach } from './gapAround.ts';
import { viewOfMark } from './markInView.ts';

const SPHERE = { width: 512, height: 256 };
const box = (x: number, y: number, width: number, height: number): Mark =>
  markSchema.parse({
    shapes: [{ kind: 'lasso', combine: 'also', points: [x, y, x + width, y, x + width, y + height, x, y + height] }],
  });

/** Whether points of the sphere are marked in the view that was found for a mark. */
function markedAt(found: ReturnType<typeof viewOfMark>, points: readonly (readonly [number, number])[]): boolean[] {
  const mask = maskUnder(renderMark(found.mark, found.view), wholeOf(found.view));
  const forward = sphereToView(found.view, SPHERE);
  return points.map(([x, y]) => {
    const at = Float64Array.of(x, y);
    forward(at, 1);
    return mask.data[Math.floor(at[1]!) * mask.width + Math.floor(at[0]!)]! >= 128;
  });
}

test('a mark past the right side goes on at the left, in one view of both', () => {
  const found = viewOfMark(box(490, 110, 50, 30), SPHERE);
  expect(Math.abs(Math.abs(found.view.yaw) - 178.6)).toBeLessThan(1);
  const points = [
    [495, 125],
    [510, 125],
    [2, 125],
    [26, 125],
    [32, 125],
    [484, 125],
  ] as const;
  expect(markedAt(found, points)).toEqual([true, true, true, true, false, false]);
});

test('a mark on the lowest rows is worked on straight down, the pole itself included', () => {
  const found = viewOfMark(box(0, 240, 512, 16), SPHERE);
  expect(found.view.pitch).toBe(-90);
  expect(
    markedAt(found, [
      [10, 255.9],
      [300, 244],
      [300, 230],
    ]),
  ).toEqual([true, true, false]);
});

test('a mark with surroundings leaves room for donors in its view', () => {
  const { view, mark } = viewOfMark(box(200, 100, 40, 40), SPHERE);
  const { rect } = renderMark(mark, view);
  expect(rect.x).toBeGreaterThan(view.width * 0.1);
  expect(rect.x + rect.width).toBeLessThan(view.width * 0.9);
});

test('a mark on a flat picture, an empty one and one all around are refused in a sentence', () => {
  expect(() => viewOfMark(box(0, 0, 9, 9), { width: 300, height: 200 })).toThrow(/twice as wide as high/);
  expect(() => viewOfMark(markSchema.parse({ shapes: [] }), SPHERE)).toThrow(/Nothing is marked/);
  expect(() => viewOfMark(box(0, 110, 512, 20), SPHERE)).toThrow(/too far around/);
});

test('what is missing around a pole is found, looked at from the middle, and marked', () => {
  const sphere = colouredSphere(512);
  // Nothing above 50 degrees; a ragged edge below it.
  for (let y = 0; y < 60; y++) {
    for (let x = 0; x < 512; x++)
      if (y < 57 || x % 90 < 20) sphere.data.fill(0, 4 * (y * 512 + x), 4 * (y * 512 + x) + 4);
  }
  expect(gapReach(sphere, 'zenith')).toBeCloseTo((60 / 256) * 180, 6);
  expect(gapReach(sphere, 'nadir')).toBe(0);
  expect(drain(gapAround(sphere, 'nadir', kernels))).toBeUndefined();
  const found = drain(gapAround(sphere, 'zenith', kernels))!;
  expect(found.view.pitch).toBe(90);
  expect(
    markedAt(found, [
      [100, 2],
      [300, 54],
      [10, 58],
      [45, 66],
      [300, 80],
    ]),
  ).toEqual([true, true, true, false, false]);
});

test('more missing than a direct view can show is said', () => {
  const sphere = colouredSphere(256);
  sphere.data.fill(0, 0, 4 * 256 * 100);
  expect(() => drain(gapAround(sphere, 'zenith', kernels))).toThrow(/too far around/);
});
