import { pictureOf } from '../../../tests/support/pictures.ts';
import { createRandom } from '../numeric/random.ts';
import { findHorizon } from './findHorizon.ts';

const [WIDTH, HEIGHT] = [720, 480];

/** Slabs of a square, seen by a level camera whose horizon lies at a height, laid askew to the view. */
const slabs = (horizon: number) =>
  pictureOf(WIDTH, HEIGHT, (x, y) => {
    if (y <= horizon + 20) return [150, 170, 190];
    const away = 400 / (y + 0.5 - horizon);
    const across = ((x + 0.5 - WIDTH / 2) / 500) * away;
    const [u, v] = [0.8 * across + 0.6 * away, 0.8 * away - 0.6 * across];
    const isJoint = [u, v].some((at) => (((4 * at) % 1) + 1) % 1 < 0.12);
    return isJoint ? [60, 60, 60] : [165, 160, 150];
  });

test.each([90, 170])('the horizon of slabs in perspective is found (at %d)', (horizon) => {
  expect(Math.abs(findHorizon(slabs(horizon))! - horizon)).toBeLessThan(12);
});

test('a picture whose edges run any way has no horizon', () => {
  const random = createRandom(3);
  const strokes = Array.from({ length: 260 }, () => ({
    x: random.below(WIDTH),
    y: random.below(HEIGHT),
    angle: random.below(628) / 100,
  }));
  const picture = pictureOf(WIDTH, HEIGHT, () => [190, 190, 190]);
  for (const { x, y, angle } of strokes) {
    for (let t = 0; t < 26; t += 0.4) {
      const [px, py] = [Math.round(x + t * Math.cos(angle)), Math.round(y + t * Math.sin(angle))];
      if (px >= 0 && py >= 0 && px < WIDTH && py < HEIGHT) picture.data.set([60, 60, 60], 4 * (py * WIDTH + px));
    }
  }
  expect(findHorizon(picture)).toBeUndefined();
});
