import { maskOf } from '../../../tests/support/pictures.ts';
import { castBy } from './castBy.ts';
import { areaOf, type Mask } from '../mask/mask.ts';

const [WIDTH, HEIGHT] = [160, 120];
const isPost = (x: number, y: number) => x >= 40 && x < 52 && y >= 30 && y < 80;
const POST = maskOf(WIDTH, HEIGHT, isPost);
/** A shadow that leads from the post's foot to the right and a little down. */
const isCast = (x: number, y: number) => !isPost(x, y) && x >= 46 && x < 110 && Math.abs(y - 74 - 0.15 * (x - 46)) < 6;

const shareOf = (found: Mask, is: (x: number, y: number) => boolean): number => {
  const truth = maskOf(WIDTH, HEIGHT, is);
  let both = 0;
  for (let i = 0; i < found.data.length; i++) if (found.data[i] && truth.data[i]) both++;
  return both / (areaOf(truth) || 1);
};

test('a shadow that leads away from the foot is taken whole, other darkness beside it is not', () => {
  const isFar = (x: number, y: number) => x > 120 && y < 40;
  const found = castBy(
    POST,
    maskOf(WIDTH, HEIGHT, (x, y) => isCast(x, y) || isFar(x, y)),
  );
  expect(shareOf(found, isCast)).toBeGreaterThan(0.9);
  expect(shareOf(found, isFar)).toBe(0);
});

test('of a darkness that runs into another’s only the subject’s own part is taken', () => {
  // At its end the shadow meets a dark thing that reaches far up.
  const isThing = (x: number, y: number) => x >= 110 && x < 134 && y > 20 && y < 96;
  const found = castBy(
    POST,
    maskOf(WIDTH, HEIGHT, (x, y) => isCast(x, y) || isThing(x, y)),
  );
  expect(shareOf(found, isCast)).toBeGreaterThan(0.9);
  expect(shareOf(found, isThing)).toBeLessThan(0.4);
});

test('a building’s shadow in which the subject stands is not its own', () => {
  const all = maskOf(WIDTH, HEIGHT, (x, y) => !isPost(x, y) && x < 100);
  expect(areaOf(castBy(POST, all))).toBe(0);
  const none = maskOf(WIDTH, HEIGHT, () => false);
  expect(areaOf(castBy(POST, none))).toBe(0);
});

test('a darkness that reaches above the subject’s top lies behind it, and is no shadow of its', () => {
  const isHill = (x: number, y: number) => !isPost(x, y) && y >= 20 && y < 44 + x / 10;
  expect(areaOf(castBy(POST, maskOf(WIDTH, HEIGHT, isHill)))).toBe(0);
});

test('of dark areas elsewhere along the subject those are added that lie along the same ways', () => {
  // Below a flat bar its shadow lies along it, and at its right end; a spot above it is another's.
  const isBar = (x: number, y: number) => x >= 30 && x < 110 && y >= 50 && y < 62;
  const isBelow = (x: number, y: number) => x >= 38 && x < 100 && y >= 62 && y < 70;
  const isBeside = (x: number, y: number) => x >= 110 && x < 116 && y >= 56 && y < 66;
  const isAbove = (x: number, y: number) => x >= 60 && x < 80 && y >= 42 && y < 50;
  const bar = maskOf(WIDTH, HEIGHT, isBar);
  const elsewhere = [maskOf(WIDTH, HEIGHT, isBeside), maskOf(WIDTH, HEIGHT, isAbove)];
  const found = castBy(bar, maskOf(WIDTH, HEIGHT, isBelow), elsewhere);
  expect(shareOf(found, isBelow)).toBeGreaterThan(0.9);
  expect(shareOf(found, isBeside)).toBeGreaterThan(0.9);
  expect(shareOf(found, isAbove)).toBe(0);
});

test('a rim of a few px that the subject lends its colour to does not part it from its shadow', () => {
  const isCore = (x: number, y: number) => isCast(x, y) && x >= 56;
  expect(shareOf(castBy(POST, maskOf(WIDTH, HEIGHT, isCore)), isCore)).toBeGreaterThan(0.9);
  const isFar = (x: number, y: number) => isCast(x, y) && x >= 62;
  expect(areaOf(castBy(POST, maskOf(WIDTH, HEIGHT, isFar)))).toBe(0);
});
