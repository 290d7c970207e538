import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { applyAffine, type Affine } from '../image/affine.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { borrowable, borrowRegion } from './borrowRegion.ts';
import { fitToRim } from './fitToRim.ts';

const [WIDTH, HEIGHT] = [420, 220];
const CENTRE = { x: 110, y: 110 };
const POINTED_AT = { dx: 190, dy: 0 };
const MARK = maskOf(WIDTH, HEIGHT, (x, y) => Math.hypot(x + 0.5 - CENTRE.x, y + 0.5 - CENTRE.y) < 34);

/** A pattern without any period, smooth enough to be resampled. */
const pattern = (x: number, y: number): number =>
  120 + 40 * Math.sin(x / 7 + 1.3 * Math.sin(y / 13)) + 35 * Math.sin(y / 9 + 0.8 * Math.sin(x / 17));

/** The pattern on the left; on the right as `place` leads to it from there, `darker` times as dark. */
function twice(place: Affine, darker = 1): RasterImage {
  const grain = noise(3, 4);
  const determinant = place.a * place.d - place.b * place.c;
  return pictureOf(WIDTH, HEIGHT, (px, py) => {
    let [x, y] = [px + 0.5, py + 0.5];
    const isRight = x > 210;
    if (isRight) {
      const [u, v] = [x - place.tx, y - place.ty];
      [x, y] = [(place.d * u - place.b * v) / determinant, (place.a * v - place.c * u) / determinant];
    }
    const level = pattern(x, y) * (isRight ? darker : 1) + grain();
    return [level, 0.9 * level, 0.8 * level];
  });
}

/** About the mark's centre, then to the place pointed at and `x`, `y` px on. */
function aside(a: number, b: number, c: number, d: number, x: number, y: number): Affine {
  return {
    ...{ a, b, c, d },
    tx: CENTRE.x + POINTED_AT.dx + x - a * CENTRE.x - b * CENTRE.y,
    ty: CENTRE.y + POINTED_AT.dy + y - c * CENTRE.x - d * CENTRE.y,
  };
}

/** How far two maps lead apart, in px, at most, at the mark's rim. */
function apart(found: Affine, truth: Affine): number {
  const off = [0, 1, 2, 3, 4, 5].map((k) => {
    const [x, y] = [CENTRE.x + 34 * Math.cos(k), CENTRE.y + 34 * Math.sin(k)];
    const [p, q] = [applyAffine(found, x, y), applyAffine(truth, x, y)];
    return Math.hypot(p.x - q.x, p.y - q.y);
  });
  return Math.max(...off);
}

const plain = aside(1, 0, 0, 1, 0, 0);

test.each([
  ['shifted by a fraction of a px', aside(1, 0, 0, 1, 6.4, -9.3), 1],
  ['larger, and shifted', aside(1.12, 0, 0, 1.12, 5, 3), 1],
  ['smaller, sheared and turned a little', aside(0.9, 0.05, -0.03, 0.94, -4, 6), 1],
  ['shifted, and in a weaker light', aside(1, 0, 0, 1, -7.5, 4.2), 0.8],
])('the place that goes on with what lies around is found, %s', (_, truth, darker) => {
  expect(apart(fitToRim(twice(truth, darker), MARK, POINTED_AT)!, truth)).toBeLessThan(0.5);
});

test('a thing that stands in a part of the band does not lead it astray', () => {
  const truth = aside(1, 0, 0, 1, 6, -8);
  const image = twice(truth);
  for (let y = 60; y < 100; y++) for (let x = 140; x < 165; x++) image.data.set([250, 20, 20], 4 * (y * WIDTH + x));
  expect(apart(fitToRim(image, MARK, POINTED_AT)!, truth)).toBeLessThan(0.5);
});

test('where nothing tells of another place, none is found', () => {
  const grain = noise(5, 6);
  const even = pictureOf(WIDTH, HEIGHT, () => [150 + grain(), 150, 150]);
  expect(fitToRim(even, MARK, POINTED_AT)).toBeUndefined();
});

test('what already goes on with it is not moved, however grainy it is', () => {
  const grain = noise(5, 25);
  const rows = pictureOf(WIDTH, HEIGHT, (_, y) => {
    const level = (y % 18 < 2 ? 60 : 165) + grain();
    return [level, level, level];
  });
  expect(fitToRim(rows, MARK, POINTED_AT)).toBeUndefined();
});

test('where most of the band would lie outside the picture, none is found', () => {
  const far = { dx: 0, dy: 120 };
  expect(fitToRim(twice(plain), MARK, far)).toBeUndefined();
});

test('what is borrowed from where it fits goes on with the pattern, which the place pointed at does not', () => {
  const truth = aside(1.1, 0, 0, 1.06, 6, -5);
  const image = twice(truth);
  const off = (from: Affine): number => {
    const { box, image: made } = borrowRegion({ image, mark: MARK, from }, kernels);
    let [sum, count] = [0, 0];
    for (let y = 0; y < box.height; y++) {
      for (let x = 0; x < box.width; x++) {
        if (!MARK.data[(y + box.y) * WIDTH + x + box.x]) continue;
        sum += Math.abs(made.data[4 * (y * box.width + x)]! - pattern(x + box.x + 0.5, y + box.y + 0.5));
        count++;
      }
    }
    return sum / count;
  };
  expect(off(fitToRim(image, MARK, POINTED_AT)!)).toBeLessThan(4);
  expect(off(plain)).toBeGreaterThan(15);
});

test('nothing is borrowed from what is marked, nor resampled out of it', () => {
  const within = borrowable(MARK, { a: 1, b: 0, c: 0, d: 1, tx: 40, ty: 0 });
  const between = borrowable(MARK, { a: 1, b: 0, c: 0, d: 1, tx: 40.5, ty: 0 });
  let [whole, resampled] = [0, 0];
  MARK.data.forEach((value, i) => {
    if (!value) return;
    expect(within[i]).toBe(MARK.data[i + 40] ? 0 : 1);
    for (const k of [39, 40, 41, 42]) if (MARK.data[i + k]) expect(between[i]).toBe(0);
    whole += within[i]!;
    resampled += between[i]!;
  });
  expect(whole).toBeGreaterThan(1500);
  expect(resampled).toBeGreaterThan(1200);
});
