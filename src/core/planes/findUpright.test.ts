import { kernels } from '../../../tests/support/kernels.ts';
import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import { uprightHomography, type Upright } from '../geometry/frameGeometry.ts';
import { applyHomography, invertHomography } from '../geometry/homography.ts';
import { resampleImage } from '../geometry/resampleImage.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { drain } from '../progress.ts';
import { findUpright } from './findUpright.ts';

const [WIDTH, HEIGHT] = [900, 700];
const DEGREE = Math.PI / 180;
const grain = noise(4, 4);
/** A wall of windows, seen square on, larger than the picture. */
const WALL = pictureOf(WIDTH, HEIGHT, (x, y) => {
  const isWindow = x % 150 > 30 && x % 150 < 110 && y % 140 > 30 && y % 140 < 115;
  const value = (isWindow ? 60 : 170) + grain();
  return [value, value, value];
});

/** As a camera turned by this sees it. */
const seenBy = (turned: Upright): RasterImage => {
  const size = { width: WIDTH, height: HEIGHT };
  const toTarget = invertHomography(uprightHomography(turned, size));
  return drain(resampleImage(WALL, [{ kind: 'projective', toTarget }], size, kernels));
};

test.each([-6, -2, 3, 7])('a wall tilted by %d degrees is levelled to a tenth', (degrees) => {
  const found = findUpright(seenBy({ turn: degrees * DEGREE, pitch: 0, yaw: 0, focal: 1 }));
  expect(Math.abs(found.level! / DEGREE - degrees)).toBeLessThan(0.1);
});

test('converging walls stand upright after squaring up, to a quarter of a degree at the sides', () => {
  const taken = { turn: 2 * DEGREE, pitch: 14 * DEGREE, yaw: 0, focal: 1 };
  const { square } = findUpright(seenBy(taken));
  const size = { width: WIDTH, height: HEIGHT };
  const toPhoto = invertHomography(uprightHomography(taken, size));
  const back = uprightHomography(square!, size);
  for (const x of [150, 450, 750]) {
    const [top, bottom] = [150, 550].map((y) => {
      const seen = applyHomography(toPhoto, x, y);
      return applyHomography(back, seen.x, seen.y);
    });
    const lean = Math.atan2(bottom!.x - top!.x, bottom!.y - top!.y) / DEGREE;
    expect(Math.abs(lean)).toBeLessThan(0.25);
  }
});

test('a picture without lines proposes nothing', () => {
  const soft = pictureOf(300, 200, (x, y) => [120 + 40 * Math.sin(x / 40), 120 + 40 * Math.cos(y / 30), 120]);
  expect(findUpright(soft)).toEqual({ level: undefined, square: undefined });
});

test('a long horizon levels where nothing stands upright', () => {
  const sea = pictureOf(600, 400, (x, y) => (y < 180 + 0.05 * (x - 300) ? [200, 210, 220] : [60, 90, 120]));
  expect(Math.abs(findUpright(sea).level! + Math.atan(0.05))).toBeLessThan(0.1 * DEGREE);
});
