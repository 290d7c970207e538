import { areaOf } from '../mask/mask.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { findReflection } from './findReflection.ts';

const [WIDTH, HEIGHT] = [260, 260];
const FOOT = 130;
/** A boat with a mast, standing on row FOOT. */
const isBoat = (x: number, y: number) =>
  (y >= 100 && y < FOOT && Math.abs(x - 130) < 60 - (y - 100)) || (y >= 40 && y < 100 && Math.abs(x - 120) < 5);
const SUBJECT = maskOf(WIDTH, HEIGHT, isBoat);

/** Water with ripples that push what it mirrors to and fro; `strength` 0 = nothing is mirrored. */
const scene = (strength: number) => {
  const grain = noise(9, 8);
  const boat = (y: number): [number, number, number] => (y < 110 ? [60, 50, 70] : [200, 60, 40]);
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isBoat(x, y)) return boat(y).map((value) => value + g) as [number, number, number];
    const water = [110 + 0.2 * y + g, 130 + 0.15 * y + g, 150 + 0.1 * y + g] as const;
    const push = Math.round(2 * Math.sin(0.9 * y));
    const from = 2 * FOOT - 1 - y;
    if (y < FOOT || !isBoat(x + push, from)) return [...water];
    const own = boat(from);
    return water.map((value, c) => (1 - strength) * value + strength * own[c]!) as [number, number, number];
  });
};
const isMirrored = (x: number, y: number) => y >= FOOT && isBoat(x, 2 * FOOT - 1 - y);

test.each([0.3, 0.6])('a reflection of strength %d is found, as far as it reaches', (strength) => {
  const found = findReflection(scene(strength), SUBJECT);
  let [both, either] = [0, 0];
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    const isFound = found.data[i]! >= 128;
    if (isFound && isMirrored(x, y)) both++;
    if (isFound || isMirrored(x, y)) either++;
    if (SUBJECT.data[i]) expect(found.data[i]).toBe(0);
  }
  expect(both / either).toBeGreaterThan(0.7);
});

test('where nothing is mirrored none is found, nor in a cast shadow', () => {
  expect(areaOf(findReflection(scene(0), SUBJECT))).toBe(0);
  const grain = noise(2, 8);
  const shadowed = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isBoat(x, y)) return [200 + g, 190 + g, 60 + g];
    const dark = y >= FOOT && y < FOOT + 14 && x > 90 && x < 240 ? 0.5 : 1;
    return [dark * (150 + g), dark * (140 + g), dark * (120 + g)];
  });
  expect(areaOf(findReflection(shadowed, SUBJECT))).toBe(0);
});
