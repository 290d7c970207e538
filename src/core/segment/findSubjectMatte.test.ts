import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { findSubjectMatte } from './findSubjectMatte.ts';

const SIZE = 200;
const isSubject = (x: number, y: number) => (x - 100) ** 2 / 45 ** 2 + (y - 96) ** 2 / 60 ** 2 < 1;
const isShadow = (x: number, y: number) => (x - 130) ** 2 / 50 ** 2 + (y - 160) ** 2 / 12 ** 2 < 1;
const LOOSE = maskOf(SIZE, SIZE, (x, y) => (x - 100) ** 2 / 55 ** 2 + (y - 98) ** 2 / 72 ** 2 < 1);

function scene(withSubject = true) {
  const grain = noise(3, 8);
  return pictureOf(SIZE, SIZE, (x, y) => {
    const g = grain();
    if (withSubject && isSubject(x, y)) return [160 + g, 70 + g, 40 + g];
    const lit = withSubject && isShadow(x, y) ? 0.45 : 1;
    return [lit * (170 + g), lit * (165 + g), lit * (150 + g)];
  });
}

test('finds the thing inside a loose loop, tightly, and leaves its shadow out', () => {
  const matte = findSubjectMatte(scene(), LOOSE, { generosity: 0 }, kernels);
  let both = 0;
  let either = 0;
  let shadowKept = 0;
  let shadow = 0;
  for (let i = 0; i < SIZE * SIZE; i++) {
    const [x, y] = [i % SIZE, Math.floor(i / SIZE)];
    const [found, truth] = [matte.data[i]! >= 128, isSubject(x, y)];
    if (found && truth) both++;
    if (found || truth) either++;
    if (isShadow(x, y) && !truth && LOOSE.data[i]) {
      shadow++;
      if (found) shadowKept++;
    }
  }
  expect(both / either).toBeGreaterThan(0.93);
  expect(shadowKept / shadow).toBeLessThan(0.2);
});

test('nothing outside the mark is subject', () => {
  const tight = maskOf(SIZE, SIZE, (x, y) => LOOSE.data[y * SIZE + x]! > 0 && y < 90);
  const matte = findSubjectMatte(scene(), tight, { generosity: 0 }, kernels);
  matte.data.forEach((value, i) => expect(value).toBeLessThanOrEqual(tight.data[i]!));
});

test('where nothing stands out the mark itself is the subject', () => {
  expect(findSubjectMatte(scene(false), LOOSE, { generosity: 0 }, kernels).data).toEqual(LOOSE.data);
});

test('strokes are obeyed: what they give to the subject or to the ground stays there', () => {
  const subject = maskOf(SIZE, SIZE, (x, y) => (x - 150) ** 2 + (y - 98) ** 2 < 4 ** 2);
  const ground = maskOf(SIZE, SIZE, (x, y) => (x - 100) ** 2 + (y - 70) ** 2 < 6 ** 2);
  const matte = findSubjectMatte(scene(), LOOSE, { generosity: 0, strokes: { subject, ground } }, kernels);
  const mean = (mask: typeof subject): number => {
    let sum = 0;
    let count = 0;
    mask.data.forEach((value, i) => {
      if (!value) return;
      sum += matte.data[i]!;
      count++;
    });
    return sum / count;
  };
  expect(mean(subject)).toBeGreaterThan(200);
  expect(mean(ground)).toBeLessThan(40);
});

test('a short stroke speaks for all that is like it nearby, and for nothing else', () => {
  const isWindow = (x: number, y: number) => (x - 100) ** 2 + (y - 96) ** 2 < 20 ** 2;
  const grain = noise(9, 8);
  const plain = scene();
  const image = pictureOf(SIZE, SIZE, (x, y) => {
    const g = grain();
    if (isWindow(x, y)) return [60 + g, 90 + g, 170 + g];
    return [0, 1, 2].map((c) => plain.data[4 * (y * SIZE + x) + c]!) as [number, number, number];
  });
  const ground = maskOf(SIZE, SIZE, (x, y) => (x - 100) ** 2 + (y - 96) ** 2 < 7 ** 2);
  const strokes = { subject: maskOf(SIZE, SIZE, () => false), ground };
  const before = findSubjectMatte(image, LOOSE, { generosity: 0 }, kernels);
  const after = findSubjectMatte(image, LOOSE, { generosity: 0, strokes }, kernels);
  let [opened, changed, window] = [0, 0, 0];
  for (let i = 0; i < SIZE * SIZE; i++) {
    const flipped = before.data[i]! >= 128 !== after.data[i]! >= 128;
    if (isWindow(i % SIZE, Math.floor(i / SIZE))) {
      window++;
      if (after.data[i]! < 128) opened++;
    } else if (flipped) changed++;
  }
  expect(opened / window).toBeGreaterThan(0.9);
  expect(changed / window).toBeLessThan(0.1);
});

test('a small thing before a plain ground that changes a little leaves the ground alone', () => {
  const isKite = (x: number, y: number) => Math.abs(x - 100) + Math.abs(y - 100) < 18;
  const grain = noise(3, 2);
  const picture = pictureOf(SIZE, SIZE, (x, y) => {
    const g = grain();
    if (isKite(x, y)) return x < 100 ? [200 + g, 40 + g, 40 + g] : [230 + g, 200 + g, 30 + g];
    // A veil that is lightest in the middle of the loop.
    const veil = 16 * Math.exp(-((x - 108) ** 2 + (y - 104) ** 2) / (2 * 40 ** 2));
    return [40 + veil + g, 90 + veil + g, 150 + veil + g];
  });
  const loop = maskOf(SIZE, SIZE, (x, y) => (x - 100) ** 2 + (y - 100) ** 2 < 48 ** 2);
  const matte = findSubjectMatte(picture, loop, { generosity: 0 }, kernels);
  let [both, either] = [0, 0];
  for (let i = 0; i < SIZE * SIZE; i++) {
    const [found, truth] = [matte.data[i]! >= 128, isKite(i % SIZE, Math.floor(i / SIZE))];
    if (found && truth) both++;
    if (found || truth) either++;
  }
  expect(both / either).toBeGreaterThan(0.85);
});
