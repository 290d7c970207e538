import { kernels } from '../../../../tests/support/kernels.ts';
import { noise, pictureOf } from '../../../../tests/support/pictures.ts';
import { resampleImage } from '../../../core/geometry/resampleImage.ts';
import { cropImage, type RasterImage } from '../../../core/image/rasterImage.ts';
import { wholeOf } from '../../../core/image/rect.ts';
import { areaOf } from '../../../core/mask/mask.ts';
import { drain } from '../../../core/progress.ts';
import { carryPicture, composed } from '../../carryPicture.ts';
import { maskUnder, renderMark } from '../../marks/renderMark.ts';
import { patchesUnder } from '../../marks/patchesUnder.ts';
import { reframe } from './index.ts';
import { computation } from './compute.ts';
import { reframeSchema, type ReframeParams } from './schema.ts';
import { vacancyMark, vacantSides } from './vacancy.ts';

const [WIDTH, HEIGHT] = [240, 160];
const grain = noise(6, 6);
/** Sky over a striped field: whatever is carried outward must keep to its own half. */
const PHOTO = pictureOf(WIDTH, HEIGHT, (x, y) => {
  const g = grain();
  if (y < 70) return [120 + g, 160 + g, 220 + g];
  return x % 16 < 5 ? [90 + g, 80 + g, 40 + g] : [180 + g, 170 + g, 110 + g];
});

const paramsOf = (rect: object, extra: object = {}, upright: object = {}): ReframeParams =>
  reframeSchema.parse({
    frame: { ...upright, rect },
    take: { strategy: reframe.strategies[0], seed: 1 },
    ...extra,
  });

/** The photo in its frame, before and after its vacancies are rebuilt. */
function framed(params: ReframeParams): { before: RasterImage; after: RasterImage; regions: number } {
  const { warps, size } = reframe.reshape!(params, PHOTO);
  const before = drain(resampleImage(PHOTO, warps, size, kernels));
  const rects = reframe.regions(params, size, PHOTO);
  if (rects.length === 0) return { before, after: before, regions: 0 };
  const regions = rects.map((rect) => ({ rect, image: cropImage(before, rect) }));
  const memo = new Map<string, unknown>();
  const input = { params, photo: size, before: PHOTO, regions, inputKey: 'framed', memo, kernels };
  const { patches } = drain(computation.apply(input));
  return { before, after: composed(before, patches), regions: regions.length };
}

const vacantIn = ({ data }: RasterImage): number =>
  data.reduce((sum, v, i) => sum + (i % 4 === 3 && v < 255 ? 1 : 0), 0);

test('a frame past the edges is filled, the photo inside it stays to the pixel, sky and field keep apart', () => {
  const params = paramsOf({ x: -60, y: 0, width: WIDTH + 60, height: HEIGHT }, { rimPx: 0 });
  const { before, after } = framed(params);
  expect(vacantIn(before)).toBe(60 * HEIGHT);
  expect(vacantIn(after)).toBe(0);
  const kept = cropImage(after, { x: 60, y: 0, width: WIDTH, height: HEIGHT });
  expect(kept.data).toEqual(PHOTO.data);
  for (let y = 0; y < HEIGHT; y++) {
    if (Math.abs(y - 70) < 6) continue;
    const i = 4 * (y * (WIDTH + 60) + 20);
    expect(after.data[i + 2]! > after.data[i]!).toBe(y < 70);
  }
});

test('a frame inside the photo has nothing to rebuild and is a plain cut', () => {
  const { after, regions } = framed(paramsOf({ x: 30, y: 20, width: 100, height: 90 }));
  expect(regions).toBe(0);
  expect(after.data).toEqual(cropImage(PHOTO, { x: 30, y: 20, width: 100, height: 90 }).data);
});

test('levelling leaves vacant corners, which are rebuilt; in several passes too', () => {
  const turned = { turn: 0.07 };
  for (const passes of [1, 3]) {
    const { before, after } = framed(paramsOf(wholeOf(PHOTO), { passes }, turned));
    expect(vacantIn(before)).toBeGreaterThan(500);
    expect(vacantIn(after)).toBe(0);
  }
});

test('in two passes the second goes on from the inner half of what the first made', () => {
  const rect = { x: -120, y: 0, width: WIDTH + 120, height: HEIGHT };
  const [once, twice] = [1, 2].map((passes) => framed(paramsOf(rect, { passes, rimPx: 0 })).after);
  const inner = { x: 60, y: 0, width: 60 + WIDTH, height: HEIGHT };
  expect(cropImage(twice!, inner).data).toEqual(cropImage(once!, inner).data);
  expect(twice!.data).not.toEqual(once!.data);
  expect(vacantIn(twice!)).toBe(0);
});

test('a margin that is not chosen stays vacant', () => {
  const rect = { x: -40, y: 0, width: WIDTH + 80, height: HEIGHT };
  const { after } = framed(paramsOf(rect, { sides: ['left'], rimPx: 0 }));
  expect(vacantIn(after)).toBe(40 * HEIGHT);
  expect(vacantSides(paramsOf(rect).frame, PHOTO)).toEqual(['right', 'left']);
});

test('the mark of a vacancy holds the rim on its side alone', () => {
  const params = paramsOf({ x: -40, y: 0, width: WIDTH + 40, height: HEIGHT }, { rimPx: 5 });
  const size = { width: WIDTH + 40, height: HEIGHT };
  const mask = maskUnder(renderMark(vacancyMark(params, PHOTO), size), wholeOf(size));
  expect(areaOf(mask)).toBe(45 * HEIGHT);
  const halfway = maskUnder(renderMark(vacancyMark(params, PHOTO, { to: 0.5 }), size), wholeOf(size));
  expect(areaOf(halfway)).toBe(25 * HEIGHT);
});

test('where margins meet at a corner they are marked wholly, without a line of the vacant ground between them', () => {
  for (const [right, bottom] of [[40, 0] as const, [40, 30] as const]) {
    const rect = { x: -40, y: -30, width: WIDTH + 40 + right, height: HEIGHT + 30 + bottom };
    const mask = maskUnder(renderMark(vacancyMark(paramsOf(rect, { rimPx: 0 }), PHOTO), rect), wholeOf(rect));
    const isPhoto = (i: number): boolean => {
      const [x, y] = [i % rect.width, Math.floor(i / rect.width)];
      return x >= 40 && y >= 30 && x < 40 + WIDTH && y < 30 + HEIGHT;
    };
    expect(mask.data.every((value, i) => value === (isPhoto(i) ? 0 : 255))).toBe(true);
  }
});

test('frames that are far too large are refused with how large they may be', () => {
  expect(() => reframe.reshape!(paramsOf({ x: 0, y: 0, width: 2400, height: 1600 }), PHOTO)).toThrow(
    /3\.8 megapixels is too large.*0\.3 megapixels or smaller/,
  );
  expect(() => paramsOf({ x: 0, y: 0, width: 0, height: 10 })).toThrow();
  expect(() => paramsOf({ x: NaN, y: 0, width: 10, height: 10 })).toThrow();
});

test('of a framed picture only the margins are kept as patches', () => {
  const image = pictureOf(900, 700, () => [1, 2, 3]);
  const params = paramsOf({ x: -100, y: -10, width: WIDTH + 660, height: HEIGHT + 540 }, { rimPx: 0 });
  const mask = maskUnder(renderMark(vacancyMark(params, { width: 800, height: 690 }), image), wholeOf(image));
  const patches = patchesUnder({ x: 5, y: 7, width: 900, height: 700 }, image, mask);
  const covered = patches.reduce((sum, { rect }) => sum + rect.width * rect.height, 0);
  expect(covered).toBeLessThan(0.75 * 900 * 700);
  const all = composed(
    pictureOf(905, 707, () => [0, 0, 0]),
    patches,
  );
  const missed = mask.data.findIndex((value, i) => {
    const at = (Math.floor(i / 900) + 7) * 905 + (i % 900) + 5;
    return value > 0 && all.data[4 * at] !== 1;
  });
  expect(missed).toBe(-1);
});

test('two frames in a row resample the photo once, and carry along what was rebuilt between', () => {
  const turn = (t: number) => paramsOf(wholeOf(PHOTO), {}, { turn: t });
  const carry = (params: ReframeParams, patches: Parameters<typeof composed>[1] = []) => ({
    ...reframe.reshape!(params, PHOTO),
    patches: [...patches],
  });
  const green = { rect: { x: 100, y: 20, width: 40, height: 30 }, image: pictureOf(40, 30, () => [20, 200, 20]) };
  const back = drain(carryPicture(PHOTO, [carry(turn(0.12)), carry(turn(-0.12), [green])], kernels));
  const middle = { x: 60, y: 90, width: 120, height: 40 };
  // Turned there and back at once, the photo is as it was.
  expect(cropImage(back, middle).data).toEqual(cropImage(PHOTO, middle).data);
  const at = 4 * (36 * WIDTH + 122);
  expect([back.data[at], back.data[at + 1]]).toEqual([20, 200]);
  expect(vacantIn(cropImage(back, { x: 80, y: 10, width: 80, height: 60 }))).toBe(0);
});
