import type { Drawn } from '../fill/drawn.ts';
import { applyHomography, invertHomography, type Homography } from '../geometry/homography.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { boundsOf, createMask, type Mask } from '../mask/mask.ts';
import { createRandom } from '../numeric/random.ts';
import { carryOn } from './carryOn.ts';

const WIDTH = 360;
const HEIGHT = 260;
const SAMPLES = 3;

/** A grey picture of what `levelAt` says of places, each pixel the mean of nine of them, with a little grain. */
function pictureOf(levelAt: (x: number, y: number) => number): RasterImage {
  const data = new Uint8ClampedArray(4 * WIDTH * HEIGHT);
  const random = createRandom(7);
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    let sum = 0;
    for (let k = 0; k < SAMPLES * SAMPLES; k++) {
      const x = (i % WIDTH) + ((k % SAMPLES) + 0.5) / SAMPLES;
      const y = Math.floor(i / WIDTH) + (Math.floor(k / SAMPLES) + 0.5) / SAMPLES;
      sum += levelAt(x, y);
    }
    const level = sum / (SAMPLES * SAMPLES) + random.below(4) - 1.5;
    data.set([level, level, level, 255], 4 * i);
  }
  return { width: WIDTH, height: HEIGHT, data };
}

function maskOf(isHole: (x: number, y: number) => boolean): Mask {
  const mask = createMask(WIDTH, HEIGHT);
  for (let i = 0; i < mask.data.length; i++) if (isHole(i % WIDTH, Math.floor(i / WIDTH))) mask.data[i] = 255;
  return mask;
}

/** What is drawn of a picture in which the hole is magenta. */
function drawnIn(picture: RasterImage, hole: Mask): Drawn | undefined {
  const data = picture.data.slice();
  for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) data.set([255, 0, 255, 255], 4 * i);
  return carryOn({ ...picture, data }, hole.data, boundsOf(hole));
}

/** Which share of the hole is drawn, and which of that is off by more than a third of the windows' contrast. */
function judge(drawn: Drawn, hole: Mask, truth: RasterImage): { drawnShare: number; wrongShare: number } {
  const colour = new Float32Array(3);
  let [all, wrong] = [0, 0];
  for (let i = 0; i < hole.data.length; i++) {
    if (hole.data[i]) all++;
    if (!drawn.pixelsOf[i]) continue;
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    expect(drawn.sources.sample(drawn.sources.groupAt(x, y), x, y, colour)).toBe(true);
    if (Math.abs(colour[0]! - truth.data[4 * i]!) > 35) wrong++;
  }
  return { drawnShare: drawn.pixels / all, wrongShare: wrong / drawn.pixels };
}

/** From the picture to a wall with a window of 0.6 x 0.5 in each square of side 1. */
const TO_WALL = invertHomography([34, 3, 20, -4, 38, 14, -0.012, 0.006, 1] as Homography);
const wall = (x: number, y: number): number => {
  const at = applyHomography(TO_WALL, x, y);
  const [u, v] = [at.x - Math.floor(at.x), at.y - Math.floor(at.y)];
  if (u > 0.2 && u < 0.8 && v > 0.2 && v < 0.7) return Math.abs(u - 0.5) < 0.05 ? 190 : 70;
  return 165;
};

test('rows of windows in perspective go on through a hole in step', () => {
  const picture = pictureOf(wall);
  const hole = maskOf((x, y) => Math.hypot(x - 170, y - 130) < 48);
  const { drawnShare, wrongShare } = judge(drawnIn(picture, hole)!, hole, picture);
  expect(drawnShare).toBeGreaterThan(0.9);
  // An outline that lies a px off makes a twelfth of all wrong.
  expect(wrongShare).toBeLessThan(0.03);
});

test('they go on past the edge of the picture', () => {
  const picture = pictureOf(wall);
  const hole = maskOf((_, y) => y < 40);
  const { drawnShare, wrongShare } = judge(drawnIn(picture, hole)!, hole, picture);
  expect(drawnShare).toBeGreaterThan(0.8);
  expect(wrongShare).toBeLessThan(0.08);
});

test('where nothing repeats nothing is drawn', () => {
  const random = createRandom(3);
  const discs = Array.from({ length: 60 }, () => ({
    x: random.below(WIDTH),
    y: random.below(HEIGHT),
    radius: 8 + random.below(30),
    level: 60 + random.below(140),
  }));
  const blots = pictureOf(
    (x, y) => discs.find((disc) => Math.hypot(x - disc.x, y - disc.y) < disc.radius)?.level ?? 128,
  );
  const hole = maskOf((x, y) => Math.hypot(x - 170, y - 130) < 48);
  const drawn = drawnIn(blots, hole);
  expect(drawn ? judge(drawn, hole, blots).drawnShare : 0).toBeLessThan(0.3);
  expect(
    drawnIn(
      pictureOf(() => 128),
      hole,
    ),
  ).toBeUndefined();
});

test('the part of a lattice that ends is not drawn beyond its end', () => {
  const half = pictureOf((x, y) => (y < 130 ? wall(x, y) : 165));
  const hole = maskOf((x, y) => Math.hypot(x - 170, y - 130) < 48);
  const drawn = drawnIn(half, hole)!;
  const { wrongShare } = judge(drawn, hole, half);
  expect(wrongShare).toBeLessThan(0.1);
});
