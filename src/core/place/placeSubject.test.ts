import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import type { Placement } from '../image/affine.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { wholeOf } from '../image/rect.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { placedRect } from './placedRect.ts';
import { placeSubject, type PlaceOptions, type SubjectSource } from './placeSubject.ts';

const PLACE: Placement = { dxPx: 0, dyPx: 0, scale: 1, turn: 0, mirror: 'none' };
const BOX = { x: 10, y: 10, width: 40, height: 40 };
const CENTRE = { x: 30, y: 30 };
const isSubject = (x: number, y: number) => (x - 20) ** 2 + (y - 20) ** 2 < 100;

/** A red disc on grey ground, loosely marked by nearly the whole 40 x 40 crop. */
function source(ground = 120): SubjectSource {
  const grain = noise(2, 10);
  return {
    at: BOX,
    image: pictureOf(40, 40, (x, y) => (isSubject(x, y) ? [200 + grain(), 30, 40] : [ground, ground, ground])),
    mark: maskOf(40, 40, (x, y) => Math.min(x, y) >= 2 && Math.max(x, y) < 38),
    matte: maskOf(40, 40, isSubject),
    shadow: undefined,
  };
}

function place(from: SubjectSource, destination: RasterImage, change: Partial<PlaceOptions>) {
  const options = { placement: { ...PLACE, dxPx: 60 }, centre: CENTRE, closeness: 0.5, light: 0, ...change };
  const rect = placedRect(BOX, options, wholeOf(destination));
  return placeSubject(from, cropImage(destination, rect), rect, options, createTwinKernels());
}

const even = (value: number) => pictureOf(140, 60, () => [value, value, value]);

test('with its own light, the subject’s pixels arrive exactly as they were', () => {
  const from = source();
  const placed = place(from, even(60), {});
  for (let i = 0; i < from.matte.data.length; i++) {
    const [x, y] = [i % 40, Math.floor(i / 40)];
    if ((x - 20) ** 2 + (y - 20) ** 2 > 64) continue;
    expect(Array.from(placed.image.data.subarray(4 * i, 4 * i + 3))).toEqual(
      Array.from(from.image.data.subarray(4 * i, 4 * i + 3)),
    );
  }
});

test('loosest brings nothing of the old ground; closer brings more, its outer edge in the place’s tone', () => {
  const changed = [0, 0.8, 1].map((closeness) => {
    const { image } = place(source(), even(60), { closeness });
    let count = 0;
    for (let i = 0; i < 1600; i++) if (image.data[4 * i + 1] !== 60) count++;
    return count;
  });
  const subjectPixels = source().matte.data.filter((value) => value > 0).length;
  expect(changed[0]).toBe(subjectPixels);
  expect(changed[1]!).toBeGreaterThan(changed[0]!);
  expect(changed[2]!).toBeGreaterThan(changed[1]!);
  const { image } = place(source(), even(60), { closeness: 0.9 });
  // Two pixels inside the outer edge the tone is still the place's, within some levels of 60 (the old ground is 120).
  expect(Math.abs(image.data[4 * (20 * 40 + 4)]! - 60)).toBeLessThan(15);
});

test('taking the place’s light darkens the subject on dark ground, steadily', () => {
  const at = 4 * (20 * 40 + 20);
  const reds = [0, 0.5, 1].map((light) => place(source(), even(60), { light }).image.data[at]!);
  expect(reds[1]!).toBeLessThan(reds[0]! - 10);
  expect(reds[2]!).toBeLessThan(reds[1]! - 10);
});

test('a shadow darkens the new ground and lets its texture through', () => {
  const from = source();
  from.shadow = new Float32Array(3 * 1600).fill(1);
  for (let i = 35 * 40; i < 1600; i++) from.shadow.fill(0.5, 3 * i, 3 * i + 3);
  const striped = pictureOf(140, 60, (x) => (x % 2 ? [80, 80, 80] : [200, 200, 200]));
  const { image } = place(from, striped, { closeness: 0 });
  const [dark, light] = [image.data[4 * (38 * 40 + 11)]!, image.data[4 * (38 * 40 + 10)]!];
  expect(dark).toBeLessThan(70);
  expect(light).toBeGreaterThan(2 * dark);
  expect(light).toBeLessThan(170);
});

test('scaled to half, the subject covers about a quarter; beyond the picture’s edge it is cut off', () => {
  const isRed = (image: RasterImage, i: number) => image.data[4 * i]! > image.data[4 * i + 1]! + 60;
  const countRed = (image: RasterImage) => {
    let count = 0;
    for (let i = 0; i < image.width * image.height; i++) if (isRed(image, i)) count++;
    return count;
  };
  const full = countRed(place(source(), even(60), { closeness: 0 }).image);
  const half = countRed(
    place(source(), even(60), { closeness: 0, placement: { ...PLACE, dxPx: 60, scale: 0.5 } }).image,
  );
  expect(Math.abs(half / full - 0.25)).toBeLessThan(0.05);
  const cut = place(source(), even(60), { closeness: 0, placement: { ...PLACE, dxPx: 110 } });
  expect(cut.rect).toEqual({ x: 120, y: 10, width: 20, height: 40 });
  expect(Math.abs(countRed(cut.image) / full - 0.5)).toBeLessThan(0.1);
});
