import { kernels } from '../../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../../tests/support/pictures.ts';
import { resampleImage } from '../../../core/geometry/resampleImage.ts';
import type { RasterImage } from '../../../core/image/rasterImage.ts';
import { drain } from '../../../core/progress.ts';
import { markFromMask } from '../../marks/renderMark.ts';
import { stretch } from './index.ts';
import { computation } from './compute.ts';
import { stretchSchema } from './schema.ts';

const [WIDTH, HEIGHT] = [300, 180];
const grain = noise(2, 5);
const isDisc = (x: number, y: number) => (x - 150) ** 2 + (y - 90) ** 2 < 40 ** 2;
/** A plain red disc, cheaper to cut through than the ground of grain around it. */
const PHOTO = pictureOf(WIDTH, HEIGHT, (x, y) => (isDisc(x, y) ? [200, 60, 50] : [130 + grain(), 140 + grain(), 120]));
const KEEP = markFromMask(maskOf(WIDTH, HEIGHT, (x, y) => (x - 150) ** 2 + (y - 90) ** 2 < 42 ** 2));

function stretched(width: number, height: number, extra: object = {}): RasterImage {
  const take = { strategy: stretch.strategies[0], seed: 1 };
  const params = stretchSchema.parse({ width, height, take, ...extra });
  const { warps, size } = drain(computation.reshapeBy!(params, PHOTO, PHOTO, kernels));
  expect(size).toEqual({ width, height });
  return drain(resampleImage(PHOTO, warps, size, kernels));
}

/** How wide and how high the disc is, px. */
function discOf({ width, data }: RasterImage): { width: number; height: number } {
  const box = { left: Infinity, right: 0, top: Infinity, bottom: 0 };
  for (let i = 0; i < data.length; i += 4) {
    if (data[i]! - data[i + 1]! < 70) continue;
    const [x, y] = [(i / 4) % width, Math.floor(i / 4 / width)];
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x);
    box.top = Math.min(box.top, y);
    box.bottom = Math.max(box.bottom, y);
  }
  return { width: box.right - box.left + 1, height: box.bottom - box.top + 1 };
}

test.each([
  ['narrowed', 230, HEIGHT],
  ['widened', 380, HEIGHT],
  ['lowered', WIDTH, 140],
  ['narrowed and heightened at once', 250, 220],
])('what is kept keeps its shape to a hundredth where the photo is %s', (_, width, height) => {
  const disc = discOf(stretched(width, height, { keep: KEEP }));
  const own = discOf(PHOTO);
  expect(Math.abs(disc.width - own.width)).toBeLessThanOrEqual(1);
  expect(Math.abs(disc.height - own.height)).toBeLessThanOrEqual(1);
});

test('without being kept, the cheap disc gives way', () => {
  expect(discOf(stretched(230, HEIGHT)).width).toBeLessThan(0.8 * discOf(PHOTO).width);
});

test('a part is stretched while the rest is only shifted', () => {
  const out = stretched(330, HEIGHT, { part: { left: 0.75, right: 1 } });
  // Left of the part nothing moves; evening reaches some px into it.
  const left = { width: 200, height: HEIGHT };
  for (let y = 0; y < left.height; y += 7) {
    for (let x = 0; x < left.width; x++) {
      const [a, b] = [4 * (y * 330 + x), 4 * (y * WIDTH + x)];
      expect(Math.abs(out.data[a]! - PHOTO.data[b]!)).toBeLessThanOrEqual(1);
    }
  }
});

test('more than double and less than half are refused with what can be reached', () => {
  expect(() => stretched(700, HEIGHT)).toThrow(/width of 700 px.*use 150 to 600 px/);
  expect(() => stretched(WIDTH, 60)).toThrow(/height of 60 px.*use 90 to 360 px/);
});
