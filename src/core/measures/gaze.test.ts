import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import { createImage } from '../image/rasterImage.ts';
import { findFixations } from './gaze.ts';

const [WIDTH, HEIGHT] = [320, 200];
const grain = noise(3, 10);
const isNear = (x: number, y: number, cx: number, cy: number, radius: number) =>
  (x - cx) ** 2 + (y - cy) ** 2 < radius ** 2;

test('the eye goes to what stands out, in the order of how much it does', () => {
  const picture = pictureOf(WIDTH, HEIGHT, (x, y) => {
    if (isNear(x, y, 90, 70, 16)) return [220, 50, 40];
    if (isNear(x, y, 230, 140, 12)) return [60, 80, 200];
    const g = grain();
    return [130 + g, 140 + g, 120 + g];
  });
  const fixations = findFixations(picture, 2);
  const places = fixations.map(({ x, y }) => [x, y]);
  const distance = ([x, y]: number[], cx: number, cy: number) => Math.hypot(x! - cx, y! - cy);
  expect(Math.min(...places.map((place) => distance(place, 90, 70)))).toBeLessThan(18);
  expect(Math.min(...places.map((place) => distance(place, 230, 140)))).toBeLessThan(18);
  expect(fixations[0]!.strength).toBe(1);
  expect(fixations[1]!.strength).toBeLessThanOrEqual(1);
});

test('a place looked at is not told twice, and there are no more than asked for', () => {
  const picture = pictureOf(WIDTH, HEIGHT, (x, y) => (isNear(x, y, 160, 100, 20) ? [255, 255, 255] : [20, 20, 20]));
  const fixations = findFixations(picture, 6);
  expect(fixations.length).toBeLessThanOrEqual(6);
  const close = fixations.filter(({ x, y }) => isNear(x, y, fixations[0]!.x, fixations[0]!.y, 20));
  expect(close).toHaveLength(1);
});

test('nothing at all draws the eye nowhere', () => {
  expect(findFixations(createImage(50, 40), 5)).toEqual([]);
});
