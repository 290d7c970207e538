import { maskOf } from '../../../tests/support/pictures.ts';
import { areaOf, boundsOf } from './mask.ts';
import { featherMask, growMask, smoothMask } from './morphology.ts';

const disc = (radius: number, size = 80) =>
  maskOf(size, size, (x, y) => (x + 0.5 - size / 2) ** 2 + (y + 0.5 - size / 2) ** 2 <= radius * radius);

test('growing and shrinking carry a circle’s radius by the px asked for', () => {
  // The tolerance stands for the input disc's rim, which is not anti-aliased.
  for (const by of [6, -6]) {
    const radius = Math.sqrt(areaOf(growMask(disc(20), by)) / Math.PI);
    expect(Math.abs(radius - (20 + by))).toBeLessThan(0.3);
  }
});

test('growing keeps everything that was marked, shrinking adds nothing', () => {
  const mask = disc(12);
  const grown = growMask(mask, 3);
  const shrunk = growMask(mask, -3);
  mask.data.forEach((value, i) => {
    expect(grown.data[i]).toBeGreaterThanOrEqual(value);
    expect(shrunk.data[i]).toBeLessThanOrEqual(value);
  });
});

test('shrinking by more than there is leaves nothing', () => {
  expect(boundsOf(growMask(disc(5), -9)).width).toBe(0);
});

test('smoothing takes off a thin spike and keeps the body', () => {
  const withSpike = maskOf(80, 80, (x, y) => (x >= 20 && x < 60 && y >= 30 && y < 70) || (x === 40 && y >= 5));
  const smooth = smoothMask(withSpike, 6);
  expect(smooth.data[10 * 80 + 40]).toBe(0);
  expect(smooth.data[50 * 80 + 40]).toBe(255);
});

test('a feathered edge passes one half where the outline was', () => {
  const soft = featherMask(
    maskOf(40, 9, (x) => x < 20),
    8,
  );
  const row = soft.data.subarray(4 * 40, 5 * 40);
  expect(row[19]!).toBeGreaterThan(127);
  expect(row[20]!).toBeLessThan(128);
  expect(row[12]!).toBeGreaterThan(row[16]!);
});
