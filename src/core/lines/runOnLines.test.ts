import { createTwinKernels } from '../kernels/twinKernels.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { boundsOf, createMask, type Mask } from '../mask/mask.ts';
import type { Drawn } from '../fill/drawn.ts';
import { runOnLines } from './runOnLines.ts';

const WIDTH = 320;
const HEIGHT = 240;
const SAMPLES = 4;

/** A picture of what `levelAt` says of places, each pixel the mean of 16 of them, with a trifle of grain. */
function pictureOf(levelAt: (x: number, y: number) => number): RasterImage {
  const data = new Uint8ClampedArray(4 * WIDTH * HEIGHT);
  for (let i = 0, seed = 1; i < WIDTH * HEIGHT; i++) {
    let sum = 0;
    for (let k = 0; k < SAMPLES * SAMPLES; k++) {
      const x = (i % WIDTH) + ((k % SAMPLES) + 0.5) / SAMPLES;
      const y = Math.floor(i / WIDTH) + (Math.floor(k / SAMPLES) + 0.5) / SAMPLES;
      sum += levelAt(x, y);
    }
    seed = (seed * 1103515245 + 12345) % 2147483648;
    const level = sum / (SAMPLES * SAMPLES) + (seed / 2147483648 - 0.5) * 2;
    data.set([level, level, level, 255], 4 * i);
  }
  return { width: WIDTH, height: HEIGHT, data };
}

function disc(x: number, y: number, radius: number): Mask {
  const mask = createMask(WIDTH, HEIGHT);
  for (let i = 0; i < mask.data.length; i++) {
    if (((i % WIDTH) + 0.5 - x) ** 2 + (Math.floor(i / WIDTH) + 0.5 - y) ** 2 < radius * radius) mask.data[i] = 255;
  }
  return mask;
}

/** What is drawn of a picture in which the hole is magenta. */
function drawnIn(picture: RasterImage, hole: Mask): Drawn | undefined {
  const data = picture.data.slice();
  for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) data.set([255, 0, 255, 255], 4 * i);
  return runOnLines({ ...picture, data }, hole.data, boundsOf(hole), createTwinKernels());
}

/** Mean difference of what is drawn from the truth, in levels. */
function errorOf({ sources, pixelsOf }: Drawn, truth: RasterImage): number {
  const colour = new Float32Array(3);
  let [sum, count] = [0, 0];
  for (let i = 0; i < pixelsOf.length; i++) {
    if (!pixelsOf[i]) continue;
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    expect(sources.sample(sources.groupAt(x, y), x, y, colour)).toBe(true);
    sum += Math.abs(colour[1]! - truth.data[4 * i + 1]!);
    count++;
  }
  return sum / count;
}

const isDrawn = ({ pixelsOf }: Drawn, x: number, y: number): boolean =>
  pixelsOf[Math.floor(y) * WIDTH + Math.floor(x)]! > 0;

/** How far (x, y) lies to one side of a slanted line through the middle. */
const across = (x: number, y: number): number => (x - 160) * -0.35 + (y - 120) * Math.sqrt(1 - 0.35 ** 2);

test('a bar on both sides of a hole is drawn through it where it belongs, within a few tenths of a pixel', () => {
  const bar = pictureOf((x, y) => (Math.abs(across(x, y)) < 5 ? 60 : 170));
  const drawn = drawnIn(bar, disc(160, 120, 50))!;
  expect(isDrawn(drawn, 160, 120)).toBe(true);
  // An edge of 110 levels that lies .3 px off is off by 33 levels on the pixels that it crosses, some two in fifteen.
  expect(errorOf(drawn, bar)).toBeLessThan(4);
  const colour = new Float32Array(3);
  let widthPx = 0;
  for (let y = 105; y < 136; y++) {
    if (drawn.sources.sample(drawn.sources.groupAt(160, y), 160, y, colour)) widthPx += (170 - colour[1]!) / 110;
  }
  expect(Math.abs(widthPx - 10 / Math.sqrt(1 - 0.35 ** 2))).toBeLessThan(0.6);
});

test('an arc is drawn on as an arc', () => {
  const arc = pictureOf((x, y) => (Math.hypot(x - 160, y - 260) < 150 ? 70 : 160));
  const drawn = drawnIn(arc, disc(160, 112, 40))!;
  expect(isDrawn(drawn, 160, 110)).toBe(true);
  // Straight from rim to rim it would run more than five px lower in the middle.
  expect(errorOf(drawn, arc)).toBeLessThan(5);
});

test('a bar that ends inside the hole is not drawn, for nothing tells how far it reaches', () => {
  const bar = pictureOf((x, y) => (Math.abs(across(x, y)) < 5 && x < 165 ? 60 : 170));
  const drawn = drawnIn(bar, disc(160, 120, 50));
  expect(drawn === undefined || !isDrawn(drawn, 180, 127)).toBe(true);
});

test('even ground has nothing that runs on', () => {
  expect(
    drawnIn(
      pictureOf(() => 128),
      disc(160, 120, 50),
    ),
  ).toBeUndefined();
});

test('of two bars that cross, each is drawn up to the other', () => {
  const other = (x: number, y: number): number => (x - 160) * 0.8 + (y - 120) * 0.6;
  const bars = pictureOf((x, y) => (Math.abs(across(x, y)) < 5 || Math.abs(other(x, y)) < 5 ? 60 : 170));
  const drawn = drawnIn(bars, disc(160, 120, 50))!;
  for (const along of [-30, -15, 15, 30]) {
    const slant = Math.sqrt(1 - 0.35 ** 2);
    expect(isDrawn(drawn, 160 + along * slant, 120 + along * 0.35)).toBe(true);
    expect(isDrawn(drawn, 160 + along * 0.6, 120 - along * 0.8)).toBe(true);
  }
  expect(errorOf(drawn, bars)).toBeLessThan(8);
});
