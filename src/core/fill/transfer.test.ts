import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { carriedSources } from './carriedSources.ts';
import { copiedPart } from './copiedPart.ts';
import { closeSeams } from './transfer.ts';

const [WIDTH, HEIGHT] = [700, 800];
const grain = noise(3, 2);
/** Plain but for its grain, with a brighter and a darker field below, so many levels off, and rows of sharp stripes. */
const plain = (isStriped: (y: number) => boolean, off = 12) =>
  pictureOf(WIDTH, HEIGHT, (x, y) => {
    const tone = y < 400 ? 120 : 120 + (x < WIDTH / 2 ? off : -off);
    const value = (isStriped(y) && x % 6 < 3 ? 40 : tone) + grain();
    return [value, value, value];
  });
const photo = plain(() => false);
const offsets = [
  { dx: -140, dy: 400 },
  { dx: 140, dy: 400 },
];

/** The largest difference from the plain tone after a place was put together from both fields and its seams closed. */
function worstTone(
  box: Rect,
  largestBlock: number,
  indexAt: (x: number, y: number) => number,
  image = photo,
  isForbidden: (x: number, y: number) => boolean = () => false,
): number {
  const isIn = (x: number, y: number): boolean =>
    x >= box.x && y >= box.y && x < box.x + box.width && y < box.y + box.height;
  const hole = maskOf(WIDTH, HEIGHT, isIn).data;
  const forbidden = maskOf(WIDTH, HEIGHT, (x, y) => isIn(x, y) || isForbidden(x, y)).data;
  const sources = { ...carriedSources(image, forbidden, offsets, indexAt), largestBlock };
  const made = cropImage(image, box).data;
  sources.copy(hole, box, made);
  closeSeams(copiedPart({ image, unknown: hole, part: hole, box, sources }, kernels), made, kernels);
  let worst = 0;
  // Means over squares, so that grain does not count.
  for (let y = 0; y + 8 <= box.height; y += 8) {
    for (let x = 0; x + 8 <= box.width; x += 8) {
      let sum = 0;
      for (let k = 0; k < 64; k++) sum += made[4 * ((y + (k >> 3)) * box.width + x + (k & 7))]!;
      worst = Math.max(worst, Math.abs(sum / 64 - 120));
    }
  }
  return worst;
}

const crooked = (x: number, y: number): number => (x < WIDTH / 2 + 9 * Math.sin(y / 11) ? 0 : 1);

test('a small place takes on the tone around it, though it was put together from a bright and a dark one', () => {
  expect(worstTone({ x: 290, y: 150, width: 120, height: 120 }, 1, (x) => (x < WIDTH / 2 ? 0 : 1))).toBeLessThan(2);
});

test('so does one put together from what is twice as bright and from what is nearly black, without a crease', () => {
  const contrasty = plain(() => false, 110);
  const place = { x: 290, y: 150, width: 120, height: 120 };
  expect(worstTone(place, 1, (x) => (x < WIDTH / 2 ? 0 : 1), contrasty)).toBeLessThan(8);
});

test('so does a large one, solved on blocks through whose middle the seam runs', () => {
  expect(worstTone({ x: 150, y: 20, width: 400, height: 360 }, 8, crooked)).toBeLessThan(4);
});

test('so does one where neither field goes on beyond the seam, though something sharp lies near', () => {
  const striped = plain((y) => y >= 140 && y < 146);
  const isBetween = (x: number, y: number) => y >= 400 && x >= WIDTH / 2 - 140 && x < WIDTH / 2 + 140;
  const place = { x: 290, y: 150, width: 120, height: 120 };
  expect(worstTone(place, 1, (x) => (x < WIDTH / 2 ? 0 : 1), striped, isBetween)).toBeLessThan(2);
});

test('where a dark thing ends inside the place, what lies beside it keeps its tone', () => {
  const [width, height, edge] = [200, 160, 100];
  // Dark and bright side by side above; below, each by itself far enough to be copied whole.
  const image = pictureOf(width, height, (x) => (x < edge ? [40, 30, 20] : [200, 190, 180]));
  const box = { x: 70, y: 20, width: 60, height: 60 };
  const hole = maskOf(width, height, (x, y) => x >= 70 && x < 130 && y >= 20 && y < 80).data;
  const apart = [
    { dx: -65, dy: 70 },
    { dx: 65, dy: 70 },
  ];
  const sources = carriedSources(image, hole, apart, (x) => (x < edge ? 0 : 1));
  const made = cropImage(image, box).data;
  sources.copy(hole, box, made);
  closeSeams(copiedPart({ image, unknown: hole, part: hole, box, sources }, kernels), made, kernels);
  const middle = 4 * (30 * box.width + edge - box.x);
  expect([...made.subarray(middle, middle + 3)]).toEqual([200, 190, 180]);
  expect([...made.subarray(middle - 4, middle - 1)]).toEqual([40, 30, 20]);
});

test('what is rebuilt beside shade is dimmed as by shade: its dark lines do not turn black', () => {
  const isLine = (x: number, y: number) => x % 12 < 2 || y % 12 < 2;
  // The same lines everywhere; the upper half lies in shade.
  const light = (y: number) => (y < 400 ? 0.4 : 1);
  const lined = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const value = light(y) * (isLine(x, y) ? 60 : 180);
    return [value, value, value];
  });
  const box = { x: 300, y: 120, width: 72, height: 72 };
  const hole = new Uint8Array(WIDTH * HEIGHT);
  for (let y = box.y; y < box.y + box.height; y++) hole.fill(1, y * WIDTH + box.x, y * WIDTH + box.x + box.width);
  const sources = carriedSources(lined, hole, [{ dx: 0, dy: 408 }], () => 0);
  const made = cropImage(lined, box).data;
  sources.copy(hole, box, made);
  closeSeams(copiedPart({ image: lined, unknown: hole, part: hole, box, sources }, kernels), made, kernels);
  const sums = { line: 0, field: 0 };
  const counts = { line: 0, field: 0 };
  // A band along the rim, where the correction has hardly faded.
  for (let y = 1; y < 5; y++) {
    for (let x = 12; x < 60; x++) {
      const kind = isLine(x + box.x, y + box.y) ? 'line' : 'field';
      sums[kind] += made[4 * (y * box.width + x)]!;
      counts[kind]++;
    }
  }
  expect(sums.line / counts.line).toBeGreaterThan(10);
  expect(Math.abs(sums.field / counts.field - 72)).toBeLessThan(32);
});

/** How far, in levels, what is rebuilt just inside the rim is from what lies just outside, below a blue column. */
function stepBelowColumn(softPx: number): number {
  const [width, height] = [240, 320];
  const share = (x: number): number => Math.max(0, Math.min(1, (20 + softPx / 2 - Math.abs(x - 120)) / softPx));
  const image = pictureOf(width, height, (x, y) => {
    const blue = y < 160 ? share(x) : 0;
    return [230 - 180 * blue, 220 - 110 * blue, 190];
  });
  const box = { x: 80, y: 40, width: 80, height: 80 };
  const hole = maskOf(width, height, (x, y) => x >= 80 && x < 160 && y >= 40 && y < 120).data;
  const sources = carriedSources(image, hole, [{ dx: 0, dy: 160 }], () => 0);
  const made = cropImage(image, box).data;
  sources.copy(hole, box, made);
  closeSeams(copiedPart({ image, unknown: hole, part: hole, box, sources }, kernels), made, kernels);
  return Math.abs(made[4 * 40]! - image.data[4 * (39 * width + 120)]!);
}

test('out of focus, what lies beside the place runs into it whatever its colour; a thing in focus ends there', () => {
  expect(stepBelowColumn(60)).toBeLessThan(16);
  expect(stepBelowColumn(1)).toBeGreaterThan(120);
});
