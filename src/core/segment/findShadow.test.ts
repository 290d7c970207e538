import { areaOf } from '../mask/mask.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { findShadow } from './findShadow.ts';

const KERNELS = createTwinKernels();

const [WIDTH, HEIGHT] = [240, 180];
const isPost = (x: number, y: number) => x >= 100 && x < 130 && y >= 40 && y < 120;
const isShadow = (x: number, y: number) => y >= 108 && y < 120 && x >= 130 && x < 200;
const SUBJECT = maskOf(WIDTH, HEIGHT, isPost);

/** A post on a ground of two kinds of stone; another shadow lies far from it. */
const scene = (withShadow: boolean) => {
  const grain = noise(5, 8);
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isPost(x, y)) return [60 + g, 90 + g, 160 + g];
    const stone = (Math.floor(x / 12) + Math.floor(y / 12)) % 2 ? 190 : 160;
    const dark = (withShadow && isShadow(x, y)) || (x < 40 && y < 30) ? 0.5 : 1;
    return [dark * (stone + g), dark * (stone - 6 + g), dark * (stone - 20 + g)];
  });
};

test('the shadow that begins at the subject is found, another one is left alone', () => {
  const found = findShadow(scene(true), SUBJECT, KERNELS);
  let [hit, truth, elsewhere] = [0, 0, 0];
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    const isFound = found.data[i]! >= 128;
    if (isShadow(x, y)) {
      truth++;
      if (isFound) hit++;
    } else if (isFound && (x < 120 || y < 96 || y > 132)) elsewhere++;
    if (SUBJECT.data[i]) expect(found.data[i]).toBe(0);
  }
  expect(hit / truth).toBeGreaterThan(0.85);
  expect(elsewhere / truth).toBeLessThan(0.1);
});

test('where the subject casts none, none is found', () => {
  expect(areaOf(findShadow(scene(false), SUBJECT, KERNELS))).toBeLessThan(60);
});

test('a darkness that passes behind the subject is not taken for what its foot casts', () => {
  const picture = scene(true);
  for (let y = 56; y < 76; y++) {
    for (let x = 60; x < 170; x++) {
      if (!isPost(x, y)) for (let c = 0; c < 3; c++) picture.data[4 * (y * WIDTH + x) + c]! *= 0.5;
    }
  }
  const found = findShadow(picture, SUBJECT, KERNELS);
  let [cast, behind] = [0, 0];
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    if (found.data[i]! < 128) continue;
    if (isShadow(i % WIDTH, Math.floor(i / WIDTH))) cast++;
    else if (i < 84 * WIDTH) behind++;
  }
  expect(cast).toBeGreaterThan(0.85 * 12 * 70);
  expect(behind).toBe(0);
});

test('what lies dark between the legs of a subject belongs to its shadow', () => {
  const grain = noise(5, 8);
  const isFrame = (x: number, y: number) =>
    y >= 70 && y < 130 && x >= 90 && x < 150 && (y < 82 || y >= 122 || (x - 90) % 9 < 4);
  const isWithin = (x: number, y: number) => y >= 82 && y < 122 && x >= 90 && x < 150 && !isFrame(x, y);
  const picture = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isFrame(x, y)) return [60 + g, 90 + g, 160 + g];
    const stone = (Math.floor(x / 12) + Math.floor(y / 12)) % 2 ? 190 : 160;
    const dark = isWithin(x, y) || (y >= 78 && y < 132 && x >= 150 && x < 170) ? 0.5 : 1;
    return [dark * (stone + g), dark * (stone - 6 + g), dark * (stone - 20 + g)];
  });
  const found = findShadow(picture, maskOf(WIDTH, HEIGHT, isFrame), KERNELS);
  let [hit, within] = [0, 0];
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    if (!isWithin(i % WIDTH, Math.floor(i / WIDTH))) continue;
    within++;
    if (found.data[i]! >= 128) hit++;
  }
  expect(hit / within).toBeGreaterThan(0.85);
});

test('a dark ground that is seen through the bars of a subject, and goes on beside it, is no shadow', () => {
  const grain = noise(5, 8);
  const isFrame = (x: number, y: number) =>
    y >= 60 && y < 130 && x >= 90 && x < 150 && (y < 64 || (y >= 96 && y < 100) || (x - 90) % 14 < 4);
  const picture = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isFrame(x, y)) return [60 + g, 90 + g, 160 + g];
    const stone = (Math.floor(x / 12) + Math.floor(y / 12)) % 2 ? 190 : 160;
    const dark = (y >= 40 && y < 90) || (y >= 122 && y < 130 && x >= 150 && x < 190) ? 0.5 : 1;
    return [dark * (stone + g), dark * (stone - 6 + g), dark * (stone - 20 + g)];
  });
  const found = findShadow(picture, maskOf(WIDTH, HEIGHT, isFrame), KERNELS);
  let seenThrough = 0;
  for (let i = 0; i < 86 * WIDTH; i++) if (found.data[i]! >= 128) seenThrough++;
  expect(seenThrough).toBe(0);
  expect(areaOf(found)).toBeGreaterThan(160);
});

test('the core of a soft shadow is found, too, though its thing lends it some of its colour', () => {
  const grain = noise(5, 6);
  const grained = (r: number, g: number, b: number): [number, number, number] => [
    r + grain(),
    g + grain(),
    b + grain(),
  ];
  const isThing = (x: number, y: number) => Math.hypot(x - 90, y - 80) < 34;
  const depth = (x: number, y: number) => Math.hypot(x - 118, y - 106) / 40;
  const picture = pictureOf(240, 200, (x, y) => {
    if (isThing(x, y)) return grained(150, 40, 30);
    if (depth(x, y) > 1) return grained(210, 206, 196);
    if (depth(x, y) > 0.82) return grained(158, 154, 147);
    return grained(129, 116, 110);
  });
  const found = findShadow(picture, maskOf(240, 200, isThing), KERNELS);
  let [core, all] = [0, 0];
  for (let i = 0; i < found.data.length; i++) {
    const [x, y] = [i % 240, Math.floor(i / 240)];
    if (isThing(x, y) || depth(x, y) > 0.75) continue;
    all++;
    if (found.data[i]! >= 128) core++;
  }
  expect(core / all).toBeGreaterThan(0.9);
});

test('a faint fringe around the subject changes nothing of what it casts', () => {
  const fringed = { ...SUBJECT, data: SUBJECT.data.slice() };
  // As far to the left as a second post would stand.
  for (let y = 40; y < 120; y++) fringed.data.fill(90, y * WIDTH + 50, y * WIDTH + 100);
  const plain = findShadow(scene(true), SUBJECT, KERNELS);
  expect(areaOf(plain)).toBeGreaterThan(400);
  const shadow = findShadow(scene(true), fringed, KERNELS);
  let elsewhere = 0;
  for (let i = 0; i < shadow.data.length; i++) {
    if (Math.abs(shadow.data[i]! - plain.data[i]!) > 30) elsewhere++;
  }
  expect(elsewhere).toBe(0);
});

test('the shadow of a flat thing is found along all sides that it falls from, though corners part it', () => {
  // A tile seen from above, lit from the upper left: its shadow shows to the right, mostly high up, and below.
  const isTile = (x: number, y: number) => x >= 80 && x < 150 && y >= 60 && y < 130;
  const isRight = (x: number, y: number) => x >= 150 && x < 157 && y >= 66 && y < 100;
  const isBelow = (x: number, y: number) => x >= 88 && x < 150 && y >= 130 && y < 138;
  const grain = noise(6, 6);
  const table = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isTile(x, y)) return [30 + g, 80 + g, 150 + g];
    const dark = isRight(x, y) || isBelow(x, y) ? 0.6 : 1;
    return [dark * (200 + g), dark * (196 + g), dark * (186 + g)];
  });
  const found = findShadow(table, maskOf(WIDTH, HEIGHT, isTile), KERNELS);
  for (const is of [isRight, isBelow]) {
    const truth = maskOf(WIDTH, HEIGHT, is);
    const hit = truth.data.filter((value, i) => value && found.data[i]! >= 128).length;
    expect(hit / areaOf(truth)).toBeGreaterThan(0.8);
  }
});
