import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { boundsOf } from '../mask/mask.ts';
import { bentAtRim, BentSources } from './bentSources.ts';
import { rimBends, rimOutlines } from './rimBends.ts';
import { followOutlines, followedPaths } from './rimPath.ts';
import type { ShiftedSources } from './sources.ts';
import { shiftedSources } from './sources.ts';

const [WIDTH, HEIGHT] = [400, 300];
const MARK = maskOf(WIDTH, HEIGHT, (x, y) => x >= 140 && x < 260 && y >= 60 && y < 240);
const BOX = boundsOf(MARK);
/** How far down from where it is shown the copied place's lines lie. */
const OFF_BY = 6;

/** Level lines in no order that are `lower(x)` px lower than at the left. */
function lines(lower: (x: number) => number): RasterImage {
  const next = noise(3, 70);
  const tones = Array.from({ length: HEIGHT / 6 }, () => 110 + next());
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const tone = tones[Math.floor(Math.max(0, y - lower(x)) / 6)]!;
    return [tone, tone, tone];
  });
}

const OUTLINE_WORK = rimOutlines(MARK.data, WIDTH, BOX, kernels)!;
followOutlines(OUTLINE_WORK);
const OUTLINES = followedPaths(OUTLINE_WORK);

/** All of the mark copied from `dx` px to the right, as one piece. */
const fromRight = (image: RasterImage, dx: number): ShiftedSources =>
  shiftedSources(
    image,
    MARK.data,
    { width: 1, height: 1, factor: 400, dx: Int32Array.of(dx), dy: Int32Array.of(0), left: 0, top: 0 },
    1,
  ) as ShiftedSources;

const bent = (image: RasterImage, sources: ShiftedSources, donors?: Uint8Array) =>
  bentAtRim(sources, image, MARK.data, MARK.data, BOX, OUTLINES, donors, kernels);

/** What stands in the box when all of it is copied. */
function copied(sources: ReturnType<typeof bent>): Uint8ClampedArray {
  const out = new Uint8ClampedArray(4 * BOX.width * BOX.height);
  sources.copy(MARK.data, BOX, out);
  return out;
}

/** The mean difference between the picture's column `x` and the box's column `column`, in levels, away from corners. */
function stepAt(image: RasterImage, out: Uint8ClampedArray, x: number, column: number): number {
  let sum = 0;
  for (let row = 30; row < BOX.height - 30; row++) {
    sum += Math.abs(image.data[4 * ((row + BOX.y) * WIDTH + x)]! - out[4 * (row * BOX.width + column)]!);
  }
  return sum / (BOX.height - 60);
}

describe('lines that run across the rim and were copied from a place where they lie lower', () => {
  // Right of the mark they are lower by OFF_BY, and what is copied from there meets the left side nowhere.
  const image = lines((x) => (x < 270 ? 0 : OFF_BY));
  const straight = fromRight(image, 135);
  const sources = bent(image, straight);

  test('are to be moved by just that', () => {
    const { bends } = rimBends(image, MARK.data, MARK.data, BOX, straight, OUTLINES, kernels);
    const middle = bends.filter(({ x, y }) => x < BOX.x + 2 && y > 110 && y < 190);
    expect(middle.length).toBeGreaterThan(70);
    for (const { dx, dy } of middle) {
      expect(Math.abs(dx)).toBeLessThan(0.5);
      expect(Math.abs(dy - OFF_BY)).toBeLessThanOrEqual(1.5);
    }
  });

  test('meet there', () => {
    const before = stepAt(image, copied(straight), BOX.x - 1, 0);
    const after = stepAt(image, copied(sources), BOX.x - 1, 0);
    expect(before).toBeGreaterThan(20);
    expect(after).toBeLessThan(0.3 * before);
  });

  test('stay what they were far from the rim, and fade to that without a tear', () => {
    const [plain, out] = [copied(straight), copied(sources)];
    const middle = BOX.width >> 1;
    for (let row = 0; row < BOX.height; row++) {
      const at = 4 * (row * BOX.width + middle);
      expect(out[at]).toBe(plain[at]);
    }
    // From column to column a line moves by a fraction of a px.
    for (let column = 1; column < middle; column++) {
      let sum = 0;
      for (let row = 30; row < BOX.height - 30; row++) {
        const at = 4 * (row * BOX.width + column);
        sum += Math.abs(out[at]! - out[at - 4]!);
      }
      expect(sum / (BOX.height - 60)).toBeLessThan(5);
    }
  });

  test('are told to another thread with all they need', () => {
    expect(sources).toBeInstanceOf(BentSources);
    const { straight: told, part, height, forbidden, field } = sources as BentSources;
    const again = new BentSources({ straight: { ...told } as ShiftedSources, part, height, forbidden, field });
    expect(copied(again)).toEqual(copied(sources));
  });
});

test('nothing of the hole is seen in what is bent', () => {
  // What may not be seen is white; no line is brighter than 180.
  const picture = lines((x) => (x < 270 ? 0 : OFF_BY));
  for (let i = 0; i < MARK.data.length; i++) if (MARK.data[i]) picture.data.fill(255, 4 * i, 4 * i + 4);
  // The source begins at the hole's right side.
  const sources = bent(picture, fromRight(picture, BOX.width));
  expect(sources).toBeInstanceOf(BentSources);
  const out = copied(sources);
  expect(Math.max(...out.filter((_, i) => i % 4 === 0))).toBeLessThan(200);
});

test('what is no donor is not seen either, though it would make lines meet', () => {
  const image = lines((x) => (x < 270 ? 0 : OFF_BY));
  // Of what would be copied along the middle third no more is allowed than is copied straight.
  const donors = new Uint8Array(MARK.data.length).fill(255);
  const isForbidden = (x: number, y: number): boolean => x >= 275 && x < 300 && (y < 120 || y >= 180);
  for (let i = 0; i < donors.length; i++) {
    if (!isForbidden(i % WIDTH, Math.floor(i / WIDTH))) continue;
    donors[i] = 0;
    image.data.fill(255, 4 * i, 4 * i + 3);
  }
  const whitest = (out: Uint8ClampedArray): number => {
    let most = 0;
    for (let row = 120 - BOX.y; row < 180 - BOX.y; row++) {
      for (let column = 0; column < 25; column++) most = Math.max(most, out[4 * (row * BOX.width + column)]!);
    }
    return most;
  };
  const straight = fromRight(image, 135);
  expect(whitest(copied(bent(image, straight)))).toBe(255);
  expect(whitest(copied(bent(image, straight, donors)))).toBeLessThan(200);
});

test('what meets as it is stays as it is', () => {
  const image = lines(() => 0);
  const straight = fromRight(image, 135);
  expect(bent(image, straight)).toBe(straight);
});

test('a place without lines stays as it is', () => {
  const image = pictureOf(WIDTH, HEIGHT, (x) => [x / 2, x / 2, x / 2]);
  const straight = fromRight(image, 135);
  expect(bent(image, straight)).toBe(straight);
});
