import { areaOf } from '../mask/mask.ts';
import { pictureOf } from '../../../tests/support/pictures.ts';
import { reachOfColour } from './colourReach.ts';

/** Two red squares of 10 x 10 on grey, one a little darker, and a white column. */
const PICTURE = pictureOf(80, 40, (x, y) => {
  if (x >= 78) return [255, 255, 255];
  if (y < 10 || y >= 20) return [120, 120, 120];
  if (x >= 10 && x < 20) return [200, 30, 30];
  if (x >= 50 && x < 60) return [190, 30, 30];
  return [120, 120, 120];
});

test('a touched colour reaches the connected area, or all of that colour', () => {
  const at = { x: 15, y: 15 };
  expect(areaOf(reachOfColour(PICTURE, at, { tolerance: 10, connected: true }))).toBe(100);
  expect(areaOf(reachOfColour(PICTURE, at, { tolerance: 10, connected: false }))).toBe(200);
  expect(areaOf(reachOfColour(PICTURE, at, { tolerance: 2, connected: false }))).toBe(100);
});

test('near-white and missing data need no touch', () => {
  expect(areaOf(reachOfColour(PICTURE, 'white', { tolerance: 4, connected: true }))).toBe(80);
  const data = PICTURE.data.slice();
  for (let i = 0; i < 25; i++) data[4 * i + 3] = 0;
  expect(areaOf(reachOfColour({ ...PICTURE, data }, 'none', { tolerance: 0, connected: true }))).toBe(25);
});

test('a point outside the picture is refused with what to do', () => {
  expect(() => reachOfColour(PICTURE, { x: 90, y: 5 }, { tolerance: 4, connected: true })).toThrow(/inside it/);
});
