import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { findEnd } from './findEnd.ts';

const [WIDTH, HEIGHT] = [260, 200];
/** A pole that comes in from the left and ends at x = 150. */
const isPole = (x: number, y: number) => x < 150 && Math.abs(y - 100) < 12;
const MARK = maskOf(WIDTH, HEIGHT, (x, y) => x > 70 && x < 175 && y > 70 && y < 130);
const UP = { dx: 0, dy: -60 };
const ONWARD = { dx: 60, dy: 0 };

function scene(withPole = true) {
  const grain = noise(5, 8);
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    return withPole && isPole(x, y) ? [150 + g, 60 + g, 40 + g] : [120 + g, 140 + g, 90 + g];
  });
}

/** Shares of the pole inside the mark that were found, and of the rest of it that were taken along. */
function shares(found: { data: Uint8Array }): { pole: number; ground: number } {
  const [sums, counts] = [
    [0, 0],
    [0, 0],
  ];
  MARK.data.forEach((value, i) => {
    if (!value) return;
    const side = isPole(i % WIDTH, Math.floor(i / WIDTH)) ? 1 : 0;
    counts[side]!++;
    if (found.data[i]! >= 128) sums[side]!++;
  });
  return { pole: sums[1]! / counts[1]!, ground: sums[0]! / counts[0]! };
}

test('the end of a thing is found up to the edge of the mark across which it goes on', () => {
  const { pole, ground } = shares(findEnd(scene(), MARK, ONWARD, kernels)!);
  expect(pole).toBeGreaterThan(0.95);
  expect(ground).toBeLessThan(0.04);
});

test('nothing outside the mark belongs to it', () => {
  const found = findEnd(scene(), MARK, ONWARD, kernels)!;
  expect(found.data.some((value, i) => value > 0 && !MARK.data[i])).toBe(false);
});

test('where nothing stands out, or nothing is pulled or marked, there is no end', () => {
  expect(findEnd(scene(false), MARK, UP, kernels)).toBeUndefined();
  expect(findEnd(scene(), MARK, { dx: 0, dy: 0 }, kernels)).toBeUndefined();
  expect(
    findEnd(
      scene(),
      maskOf(WIDTH, HEIGHT, () => false),
      ONWARD,
      kernels,
    ),
  ).toBeUndefined();
});

test('what the end casts inside the mark comes along with it', () => {
  const isCast = (x: number, y: number) => x < 156 && y >= 112 && y < 122;
  const grain = noise(5, 8);
  const picture = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    const light = isCast(x, y) ? 0.5 : 1;
    return isPole(x, y) ? [150 + g, 60 + g, 40 + g] : [light * (120 + g), light * (140 + g), light * (90 + g)];
  });
  const found = findEnd(picture, MARK, ONWARD, kernels)!;
  const castAt = (x: number) => found.data[117 * WIDTH + x]!;
  expect([90, 110, 130].map(castAt).every((value) => value >= 128)).toBe(true);
  expect(found.data[82 * WIDTH + 110]).toBeLessThan(128);
});
