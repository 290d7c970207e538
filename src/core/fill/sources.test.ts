import { pictureOf } from '../../../tests/support/pictures.ts';
import type { Homography } from '../geometry/homography.ts';
import { carriedSources } from './carriedSources.ts';
import { mappedSources } from './mappedSources.ts';
import { shiftedSources } from './sources.ts';

const [WIDTH, HEIGHT] = [40, 24];
/** Every pixel tells where it is: red its column, green its row. */
const PICTURE = pictureOf(WIDTH, HEIGHT, (x, y) => [5 * x, 5 * y, 9]);
const BOX = { x: 8, y: 8, width: 8, height: 4 };
const colour = new Float32Array(3);

/** The part that is copied: all of the box but its first column. */
const PART = new Uint8Array(WIDTH * HEIGHT);
for (let y = BOX.y; y < BOX.y + BOX.height; y++) PART.fill(1, y * WIDTH + BOX.x + 1, y * WIDTH + BOX.x + BOX.width);

/** Where each pixel of the box was copied from, by its colour; undefined where nothing was. */
const origins = (out: Uint8ClampedArray): ({ x: number; y: number } | undefined)[] =>
  Array.from({ length: BOX.width * BOX.height }, (_, i) =>
    out[4 * i + 2] === 9 ? { x: out[4 * i]! / 5, y: out[4 * i + 1]! / 5 } : undefined,
  );
const emptyBox = (): Uint8ClampedArray => new Uint8ClampedArray(4 * BOX.width * BOX.height);

describe('sources by shifts of work cells', () => {
  // Two cells of 4 px beside each other: the left one copied from 12 px right, the right one from 8 px down.
  const cells = { width: 2, height: 1, factor: 4, dx: Int32Array.of(12, 0), dy: Int32Array.of(0, 8), left: 8, top: 8 };
  const hole = new Uint8Array(WIDTH * HEIGHT);
  hole.fill(1, 17 * WIDTH, 18 * WIDTH);
  const sources = shiftedSources(PICTURE, hole, cells, 2);

  test('pixels of a cell belong together and come from where the cell is shifted to', () => {
    expect(sources.groupAt(8, 8)).toBe(sources.groupAt(11, 11));
    expect(sources.groupAt(12, 8)).not.toBe(sources.groupAt(11, 8));
    expect(sources.sourceOf(9, 10)).toEqual({ x: 21, y: 10 });
    expect(sources.sourceOf(13, 10)).toEqual({ x: 13, y: 18 });
  });

  test('a pixel can be asked for as another group has it, but not out of the hole', () => {
    expect(sources.sample(sources.groupAt(8, 8), 13, 9, colour)).toBe(true);
    expect(Array.from(colour)).toEqual([125, 45, 9]);
    // Row 9 of the right cell lies 8 px further down in the hole.
    expect(sources.sample(sources.groupAt(13, 9), 13, 9, colour)).toBe(false);
  });

  test('copying fills the part of the box and nothing else', () => {
    const out = emptyBox();
    sources.copy(PART, BOX, out);
    const from = origins(out);
    expect(from[0]).toBeUndefined();
    expect(from[1]).toEqual({ x: 21, y: 8 });
    expect(from[BOX.width + 7]).toEqual({ x: 15, y: 17 });
  });
});

describe('sources by a few offsets', () => {
  const forbidden = new Uint8Array(WIDTH * HEIGHT);
  forbidden.fill(1, 20 * WIDTH, 21 * WIDTH);
  const offsets = [
    { dx: 0, dy: 0 },
    { dx: 5, dy: 10 },
    { dx: -30, dy: 0 },
  ];
  const sources = carriedSources(PICTURE, forbidden, offsets, (x) => (x < 12 ? 1 : 2));

  test('each pixel is carried by its own offset', () => {
    expect(sources.sourceOf(10, 9)).toEqual({ x: 15, y: 19 });
    expect(sources.sample(1, 10, 9, colour)).toBe(true);
    expect(Array.from(colour)).toEqual([75, 95, 9]);
  });

  test('what is forbidden or outside the picture is left as it is', () => {
    expect(sources.sample(1, 10, 10, colour)).toBe(false);
    expect(sources.sample(2, 13, 9, colour)).toBe(false);
    const out = emptyBox();
    sources.copy(PART, BOX, out);
    const from = origins(out);
    expect(from[1]).toEqual({ x: 14, y: 18 });
    // Row 10 comes from the forbidden row, columns from 12 on from outside.
    expect(from[2 * BOX.width + 1]).toBeUndefined();
    expect(from[4]).toBeUndefined();
  });
});

describe('sources through projective maps', () => {
  const right: Homography = [1, 0, 6, 0, 1, 0, 0, 0, 1];
  const double: Homography = [2, 0, 0, 0, 2, 0, 0, 0, 1];
  const sources = mappedSources(PICTURE, [right, double], (x) => (x < 12 ? 0 : 1));

  test('a shift by whole pixels copies them as they are', () => {
    expect(sources.sample(0, 10, 9, colour)).toBe(true);
    expect(colour[0]).toBeCloseTo(80, 4);
    expect(colour[1]).toBeCloseTo(45, 4);
    expect(sources.sourceOf(10, 9)).toEqual({ x: 16.5, y: 9.5 });
  });

  test('where a map makes smaller, all the pixels that become one count', () => {
    // Pixel (13, 9) covers columns 26 and 27 and rows 18 and 19.
    expect(sources.sample(1, 13, 9, colour)).toBe(true);
    expect(colour[0]).toBeCloseTo(5 * 26.5, 1);
    expect(colour[1]).toBeCloseTo(5 * 18.5, 1);
  });

  test('what a map leads out of the picture cannot be sampled', () => {
    expect(sources.sample(0, 36, 9, colour)).toBe(false);
    expect(sources.sample(1, 13, 13, colour)).toBe(false);
  });
});
