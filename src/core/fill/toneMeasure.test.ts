import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { areaOf, boundsOf, type Mask } from '../mask/mask.ts';
import { expectTones, measureTones, roomForTones } from './toneMeasure.ts';

const SIZE = 240;
const MARK = maskOf(SIZE, SIZE, (x, y) => (x - 120) ** 2 + (y - 120) ** 2 < 50 ** 2);
const BOX = boundsOf(MARK);

/** A sky that gets lighter downwards, with a spot in the middle that is off by so many levels. */
const sky = (off: number, grainSeed: number): RasterImage => {
  const grain = noise(grainSeed, 6);
  return pictureOf(SIZE, SIZE, (x, y) => {
    const spot = off * Math.max(0, 1 - Math.hypot(x - 120, y - 120) / 50);
    const value = 90 + y / 4 + spot + grain();
    return [value, value, value + 30];
  });
};
const PHOTO = sky(0, 1);
/** The error of `rebuilt`, which fills a mark's box. */
const toneError = (mark: Mask, rebuilt: RasterImage): number => {
  const box = boundsOf(mark);
  const cells = roomForTones(PHOTO, box, areaOf(mark), kernels);
  expectTones(PHOTO, mark.data, cells);
  return measureTones(cells, mark.data, SIZE, box, rebuilt, kernels).toneError;
};
const errorOf = (fill: RasterImage): number => toneError(MARK, cropImage(fill, BOX));

test('a fill that goes on with the tones around it is near 0, whatever its grain; a blotch is told by its strength', () => {
  expect(errorOf(sky(0, 2))).toBeLessThan(0.05);
  expect(errorOf(sky(-30, 2))).toBeGreaterThan(0.15);
  expect(errorOf(sky(60, 2))).toBeGreaterThan(1.7 * errorOf(sky(30, 2)));
});

test('past the edge of the picture the nearest tones are to go on, row by row', () => {
  const margin = maskOf(SIZE, SIZE, (x) => x >= 180);
  const box = boundsOf(margin);
  const lighter = (by: number): RasterImage => {
    const image = cropImage(sky(0, 2), box);
    for (let i = 0; i < image.data.length; i++) if (i % 4 < 3) image.data[i]! += by;
    return image;
  };
  const at = (by: number): number => toneError(margin, lighter(by));
  expect(at(0)).toBeLessThan(0.1);
  expect(at(40)).toBeGreaterThan(at(0) + 0.5);
});

test('without any surroundings there is nothing to compare with', () => {
  const all = maskOf(SIZE, SIZE, () => true);
  expect(toneError(all, PHOTO)).toBe(0);
});
