import { kernels } from '../../../tests/support/kernels.ts';
import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import { placementToAffine } from '../image/affine.ts';
import { createImage, type RasterImage } from '../image/rasterImage.ts';
import { resampleAffine, type Planes } from '../image/resample.ts';
import { wholeOf } from '../image/rect.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { drain } from '../progress.ts';
import { AS_TAKEN, uprightHomography } from './frameGeometry.ts';
import { resampleImage } from './resampleImage.ts';
import { backThrough, wholeShiftOf, type Warp } from './warp.ts';

const SIZE = { width: 220, height: 160 };
const grain = noise(5, 10);
/** Rings that grow finer outward, with grain: what a poor kernel blurs or turns into a pattern. */
const RINGS = pictureOf(SIZE.width, SIZE.height, (x, y) => {
  const value = 128 + 80 * Math.cos(((x - 110) ** 2 + (y - 80) ** 2) / 260) + grain();
  return [value, 255 - value, 128];
});

const turned = (degrees: number): Warp => ({
  kind: 'projective',
  toTarget: uprightHomography({ ...AS_TAKEN, turn: (degrees * Math.PI) / 180 }, SIZE),
});
const shifted = (x: number, y: number): Warp => ({ kind: 'projective', toTarget: [1, 0, x, 0, 1, y, 0, 0, 1] });
const carried = (image: RasterImage, warps: Warp[], size = SIZE, by = kernels): RasterImage =>
  drain(resampleImage(image, warps, size, by));

/** Mean squared difference in the middle, where both pictures have everything. */
function difference(a: RasterImage, b: RasterImage): number {
  let sum = 0;
  let count = 0;
  for (let y = 40; y < 120; y++) {
    for (let x = 50; x < 170; x++) {
      const i = 4 * (y * SIZE.width + x);
      for (let c = i; c < i + 3; c++) sum += (a.data[c]! - b.data[c]!) ** 2;
      count += 3;
    }
  }
  return sum / count;
}

function bicubic(image: RasterImage, degrees: number): RasterImage {
  const planes: Planes = { ...SIZE, channels: 4, data: Float32Array.from(image.data) };
  const turn = (degrees * Math.PI) / 180;
  const map = placementToAffine({ dxPx: 0, dyPx: 0, scale: 1, turn, mirror: 'none' }, { x: 110, y: 80 });
  const out = createImage(SIZE.width, SIZE.height);
  out.data.set(resampleAffine(planes, { x: 0, y: 0 }, map, wholeOf(SIZE)).data);
  return out;
}

test('there and back by seven degrees keeps more than a bicubic kernel does', () => {
  const there = carried(carried(RINGS, [turned(7)]), [turned(-7)]);
  const compared = bicubic(bicubic(RINGS, 7), -7);
  expect(difference(there, RINGS)).toBeLessThan(0.8 * difference(compared, RINGS));
});

test('warps in a chain are one: there and back at once changes nothing', () => {
  expect(difference(carried(RINGS, [turned(7), turned(-7)]), RINGS)).toBeLessThan(0.01);
});

test('a shift by whole pixels copies, and what the picture does not cover is transparent', () => {
  const out = carried(RINGS, [shifted(30, -20)], { width: 260, height: 150 });
  const at = (image: RasterImage, x: number, y: number) =>
    Array.from(image.data.subarray(4 * (y * image.width + x), 4 * (y * image.width + x) + 4));
  expect(at(out, 30, 0)).toEqual(at(RINGS, 0, 20));
  expect(at(out, 29, 0)).toEqual([0, 0, 0, 0]);
  expect(at(out, 249, 139)).toEqual(at(RINGS, 219, 159));
  expect(at(out, 249, 140)[3]).toBe(0);
});

test('a plain picture stays plain to its very edge', () => {
  const plain = pictureOf(60, 40, () => [90, 140, 200]);
  const out = carried(plain, [{ kind: 'projective', toTarget: [0.7, 0.1, 5.3, -0.05, 0.8, 4.1, 0, 0, 1] }]);
  let covered = 0;
  for (let i = 0; i < out.data.length; i += 4) {
    if (out.data[i + 3]! < 40) continue;
    covered++;
    expect(Math.abs(out.data[i]! - 90)).toBeLessThanOrEqual(1);
    expect(Math.abs(out.data[i + 2]! - 200)).toBeLessThanOrEqual(1);
  }
  expect(Math.abs(covered / (60 * 40 * (0.7 * 0.8 + 0.005)) - 1)).toBeLessThan(0.1);
});

test('reducing averages: stripes of one pixel become their mean', () => {
  const stripes = pictureOf(200, 200, (x) => (x % 2 ? [200, 200, 200] : [40, 40, 40]));
  const out = carried(stripes, [{ kind: 'projective', toTarget: [0.25, 0, 0, 0, 0.25, 0, 0, 0, 1] }], {
    width: 50,
    height: 50,
  });
  for (let x = 5; x < 45; x++) expect(Math.abs(out.data[4 * (25 * 50 + x)]! - 120)).toBeLessThan(12);
});

test('the fast kernel gives the very bytes of its plain twin', () => {
  const warps: Warp[] = [
    { kind: 'projective', toTarget: uprightHomography({ turn: 0.1, pitch: 0.2, yaw: 0, focal: 1 }, SIZE) },
  ];
  const twin = drain(resampleImage(RINGS, warps, SIZE, createTwinKernels()));
  expect(carried(RINGS, warps).data).toEqual(twin.data);
});

test('a displaced warp pushes along its axis by what its grid says', () => {
  const warp: Warp = {
    kind: 'displaced',
    axis: 'x',
    width: 100,
    height: 50,
    columns: 3,
    rows: 2,
    shifts: new Float32Array([0, 10, 20, 0, 10, 20]),
  };
  const at = Float64Array.of(55, 20);
  backThrough([warp, shifted(5, 0)])(at, 1);
  expect(Array.from(at)).toEqual([60, 20]);
  expect(wholeShiftOf([warp])).toBeUndefined();
  expect(wholeShiftOf([shifted(3, 4), shifted(-1, 0)])).toEqual({ x: 2, y: 4 });
});
