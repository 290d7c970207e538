import { createTwinKernels } from '../kernels/twinKernels.ts';
import { plausibleDonors } from './plausibleDonors.ts';

const KERNELS = createTwinKernels();

const [WIDTH, HEIGHT] = [120, 90];

/** Grey ground with a hole in it, and something yellow far from the hole. */
function level(isYellow: (x: number, y: number) => boolean) {
  const n = WIDTH * HEIGHT;
  const features = new Uint8Array(4 * n);
  const hole = new Uint8Array(n);
  for (let i = 0; i < n; i++) {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    features.set(isYellow(x, y) ? [180, 60, 140, 10] : [150 + ((x * 7 + y * 3) % 9), 128, 128, 20], 4 * i);
    hole[i] = (x - 35) ** 2 + (y - 45) ** 2 < 144 ? 1 : 0;
  }
  return { width: WIDTH, height: HEIGHT, features, hole, usable: hole.map((h) => 1 - h) };
}

test('what has colours that do not occur around the hole is left out, the ground is kept', () => {
  const pixels = level((x, y) => x > 80 && x < 110 && y > 30 && y < 60);
  const plausible = plausibleDonors(pixels, 0.2, KERNELS);
  expect(plausible[45 * WIDTH + 95]).toBe(0);
  expect(plausible[10 * WIDTH + 60]).toBe(1);
  expect(plausible.every((bit, i) => bit <= pixels.usable[i]!)).toBe(true);
});

test('what the mark runs through stays a donor', () => {
  const plausible = plausibleDonors(
    level((_x, y) => y > 38 && y < 52),
    0.2,
    KERNELS,
  );
  expect(plausible[45 * WIDTH + 95]).toBe(1);
});

test('single specks do not shut out the ground around them', () => {
  const plausible = plausibleDonors(
    level((x, y) => x % 9 === 0 && y % 9 === 0),
    0.2,
    KERNELS,
  );
  expect(plausible[40 * WIDTH + 90]).toBe(1);
});

test('where too little would be left, everything stays', () => {
  const pixels = level((x, y) => (x - 35) ** 2 + (y - 45) ** 2 > 20 ** 2);
  expect(plausibleDonors(pixels, 0.2, KERNELS)).toEqual(pixels.usable);
});

test("how far around the hole colours are looked at is the caller's choice", () => {
  const pixels = level((x, y) => x > 60 && x < 70 && y > 20 && y < 70);
  const inShadow = 45 * WIDTH + 65;
  expect(plausibleDonors(pixels, 0.9, KERNELS)[inShadow]).toBe(1);
  expect(plausibleDonors(pixels, 0.1, KERNELS)[inShadow]).toBe(0);
});
