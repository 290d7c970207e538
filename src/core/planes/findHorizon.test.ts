import { pictureOf } from '../../../tests/support/pictures.ts';
import type { RasterImage } from '../image/rasterImage.ts';
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

/** Strokes that run to a point far right, every third of them up to four degrees astray. */
function strokes(seed: number, point: { x: number; y: number }): RasterImage {
  const random = createRandom(seed);
  const picture = pictureOf(WIDTH, HEIGHT, () => [190, 190, 190]);
  for (let k = 0; k < 150; k++) {
    const [x, y] = [random.below(WIDTH), random.below(HEIGHT)];
    const astray = k % 3 === 0 ? (random.below(200) - 100) / 100 : 0;
    const angle = Math.atan2(point.y - y, point.x - x) + (astray * 4 * Math.PI) / 180;
    for (let t = 0; t < 40; t += 0.4) {
      const [px, py] = [Math.round(x + t * Math.cos(angle)), Math.round(y + t * Math.sin(angle))];
      if (px >= 0 && py >= 0 && px < WIDTH && py < HEIGHT) picture.data.set([60, 60, 60], 4 * (py * WIDTH + px));
    }
  }
  return picture;
}

test('edges that only just miss the others’ point hardly move the horizon', () => {
  const point = { x: 2600, y: 60 };
  const errors = [1, 2, 3, 4, 5].map((seed) => Math.abs(findHorizon(strokes(seed, point))! - point.y));
  expect(errors.reduce((sum, error) => sum + error, 0) / errors.length).toBeLessThan(6);
});

test('a picture without edges has no horizon', () => {
  expect(findHorizon(pictureOf(WIDTH, HEIGHT, (x) => [x / 4, 120, 140]))).toBeUndefined();
});
