import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import { thingsAtEdge } from './thingsAtEdge.ts';

const [WIDTH, HEIGHT] = [400, 300];
const grain = noise(7, 6);
/** Sky over sea with hills between; a boat on the right edge, a buoy in the middle of the sea. */
const SCENE = pictureOf(WIDTH, HEIGHT, (x, y) => {
  const g = grain();
  if (x > 360 && y > 200 && y < 250) return [150 + g, 70, 50];
  if ((x - 200) ** 2 + (y - 230) ** 2 < 100) return [200, 60, 40];
  if (y < 100) return [140 + g, 180 + g, 230];
  if (y < 130) return [90 + g, 110 + g, 80];
  return [70 + g, 110 + g, 130];
});

test('a thing that touches a side is told with its place; what only lies inside is not', () => {
  const [boat, ...others] = thingsAtEdge(SCENE, 'right');
  expect(others).toEqual([]);
  expect(boat!.x + boat!.width).toBe(WIDTH);
  expect(Math.abs(boat!.y - 200)).toBeLessThan(6);
  expect(Math.abs(boat!.y + boat!.height - 250)).toBeLessThan(6);
});

test('bands that run out of the picture are no things', () => {
  expect(thingsAtEdge(SCENE, 'left')).toEqual([]);
  expect(thingsAtEdge(SCENE, 'top')).toEqual([]);
  expect(thingsAtEdge(SCENE, 'bottom')).toEqual([]);
});
