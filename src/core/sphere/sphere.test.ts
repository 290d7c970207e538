import { kernels } from '../../../tests/support/kernels.ts';
import { colouredSphere, colourOf } from '../../../tests/support/sphere.ts';
import { differingPixels, sameBytes } from '../../../tests/support/pictures.ts';
import { cropImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import { rayThrough, rotationOf, turnDirection } from '../panorama/camera.ts';
import { drain } from '../progress.ts';
import { layBack } from './layBack.ts';
import { cropSphere, lookAround, pixelsOf } from './lookAround.ts';
import { isWhole, placedOnSphere } from './placement.ts';
import {
  cameraOf,
  directionOnSphere,
  placeOnSphere,
  planetToSphere,
  sphereToView,
  turnedToSphere,
  viewSize,
  viewToSphere,
  type SphereView,
} from './sphereView.ts';
import { turnedView, viewAround } from './viewAround.ts';

const SPHERE = colouredSphere(1024);
const SIDE = { width: 240, height: 200 };
const AHEAD: SphereView = { yaw: 20, pitch: 10, roll: 0, fov: 80, ...SIDE };
const DOWN: SphereView = { yaw: 0, pitch: -90, roll: 0, fov: 100, ...SIDE };
const UP: SphereView = { yaw: 70, pitch: 90, roll: 0, fov: 90, ...SIDE };
const WRAP: SphereView = { yaw: 180, pitch: 0, roll: 15, fov: 90, ...SIDE };
const VIEWS = Object.entries({ AHEAD, DOWN, UP, WRAP });

const seen = (sphere: RasterImage, view: SphereView): RasterImage =>
  drain(lookAround(pixelsOf(sphere), viewToSphere(view, sphere), view, kernels));

/** The direction that a point of a view looks in. */
function rayOf(view: SphereView, x: number, y: number): [number, number, number] {
  const camera = cameraOf(view);
  const ray = [0, 0, 0];
  rayThrough(x, y, view, camera, ray);
  const [a, b, c] = turnDirection(ray as [number, number, number], camera.rotation);
  const length = Math.hypot(a, b, c);
  return [a / length, b / length, c / length];
}

const pixel = ({ width, data }: RasterImage, x: number, y: number): number[] => [
  ...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 3),
];

/** The greatest difference of any channel between a picture and the colours that it should show. */
function worst(image: RasterImage, colourAt: (x: number, y: number) => readonly number[], step = 7): number {
  let most = 0;
  for (let y = 1; y < image.height; y += step) {
    for (let x = 1; x < image.width; x += step) {
      const wanted = colourAt(x, y);
      pixel(image, x, y).forEach((value, c) => (most = Math.max(most, Math.abs(value - wanted[c]!))));
    }
  }
  return most;
}

test.each(VIEWS)('what is carried from a view to the sphere comes back to the same point (%s)', (_, view) => {
  const points = Float64Array.of(3, 4, 120, 100, 239, 1, 40.5, 188);
  const carried = points.slice();
  viewToSphere(view, SPHERE)(carried, 4);
  sphereToView(view, SPHERE)(carried, 4);
  carried.forEach((value, k) => expect(value).toBeCloseTo(points[k]!, 6));
});

test('places on the sphere and directions lead to each other', () => {
  for (const [x, y] of [
    [1, 1],
    [700.5, 300],
    [1023, 511],
    [512, 256],
  ] as const) {
    const place = placeOnSphere(directionOnSphere(x, y, SPHERE), SPHERE);
    expect(place.x).toBeCloseTo(x, 6);
    expect(place.y).toBeCloseTo(y, 6);
  }
  expect(directionOnSphere(512, 256, SPHERE).map((v) => Math.round(v * 1e9))).toEqual([0, 0, 1e9]);
});

test.each(VIEWS)('a view shows what the world has in each direction (%s)', (_, view) => {
  expect(worst(seen(SPHERE, view), (x, y) => colourOf(rayOf(view, x + 0.5, y + 0.5)))).toBeLessThanOrEqual(2);
});

test('a small picture of much of the sphere is right everywhere, however the head is turned', () => {
  for (const roll of [0, 90]) {
    const wide: SphereView = { yaw: 100, pitch: 25, roll, fov: 140, width: 100, height: 90 };
    // Coarse px are averages: what they show is off by a little more.
    expect(worst(seen(SPHERE, wide), (x, y) => colourOf(rayOf(wide, x + 0.5, y + 0.5)), 3)).toBeLessThanOrEqual(6);
  }
});

test('a view much coarser than the sphere shows averages, not single pixels', () => {
  const checks: RasterImage = { ...SPHERE, data: SPHERE.data.slice() };
  for (let i = 0; i < checks.data.length / 4; i++) {
    const value = (i + Math.floor(i / checks.width)) % 2 ? 255 : 0;
    checks.data.set([value, value, value, 255], 4 * i);
  }
  const small = seen(checks, { yaw: 0, pitch: 0, roll: 0, fov: 100, width: 48, height: 32 });
  expect(worst(small, () => [128, 128, 128], 3)).toBeLessThan(30);
});

test('a part that runs past the sides and over a pole is cut out of what is really there', () => {
  const part = cropSphere(pixelsOf(SPHERE), { x: -10, y: -6, width: 40, height: 12 });
  expect(pixel(part, 0, 8)).toEqual(pixel(SPHERE, 1014, 2));
  expect(pixel(part, 10, 6)).toEqual(pixel(SPHERE, 0, 0));
  // Over the pole: row -1 is row 0 on the other side.
  expect(pixel(part, 12, 5)).toEqual(pixel(SPHERE, 2 + 512, 0));
  const below = cropSphere(pixelsOf(SPHERE), { x: 1000, y: 508, width: 50, height: 8 });
  expect(pixel(below, 30, 4)).toEqual(pixel(SPHERE, (1030 + 512) % 1024, 511));
});

/** A view with a box of it painted over. */
function painted(view: RasterImage, colour: readonly [number, number, number], box: { x: number; y: number }) {
  const out = { ...view, data: view.data.slice() };
  for (let y = box.y; y < box.y + 60; y++) {
    for (let x = box.x; x < box.x + 70; x++) out.data.set([...colour, 255], 4 * (y * out.width + x));
  }
  return out;
}

const laid = (sphere: RasterImage, squares: { rect: { x: number; y: number }; image: RasterImage }[]): RasterImage => {
  const out = { ...sphere, data: sphere.data.slice() };
  for (const { rect, image } of squares) pasteImage(out, rect, image);
  return out;
};

test.each(VIEWS)('a view without a change writes nothing back (%s)', (_, view) => {
  const before = seen(SPHERE, view);
  const same = { ...before, data: before.data.slice() };
  expect(drain(layBack(pixelsOf(SPHERE), view, before, same, kernels))).toEqual([]);
});

test.each(VIEWS)('a change is there when one looks again, and nowhere else on the sphere (%s)', (_, view) => {
  const before = seen(SPHERE, view);
  const after = painted(before, [250, 20, 30], { x: 90, y: 70 });
  const sphere = laid(SPHERE, drain(layBack(pixelsOf(SPHERE), view, before, after, kernels)));
  const again = seen(sphere, view);
  for (const [x, y] of [
    [100, 80],
    [125, 100],
    [150, 120],
  ] as const) {
    pixel(again, x, y).forEach((value, c) => expect(Math.abs(value - [250, 20, 30][c]!)).toBeLessThanOrEqual(2));
  }
  const forward = sphereToView(view, SPHERE);
  let touchedOutside = 0;
  let changedInside = 0;
  const far = 8;
  for (const i of differingPixels(sphere, SPHERE)) {
    const at = Float64Array.of((i % 1024) + 0.5, Math.floor(i / 1024) + 0.5);
    forward(at, 1);
    const isOutside = !(at[0]! > 90 - far && at[0]! < 160 + far && at[1]! > 70 - far && at[1]! < 130 + far);
    if (isOutside) touchedOutside++;
    else changedInside++;
  }
  expect(touchedOutside).toBe(0);
  expect(changedInside).toBeGreaterThan(100);
});

test('a change at the edge of a view fades out instead of ending in a line', () => {
  const before = seen(SPHERE, AHEAD);
  const after = painted(before, [250, 20, 30], { x: 0, y: 70 });
  const sphere = laid(SPHERE, drain(layBack(pixelsOf(SPHERE), AHEAD, before, after, kernels)));
  const changeAt = (x: number): number => {
    const place = Float64Array.of(x, 100);
    viewToSphere(AHEAD, SPHERE)(place, 1);
    const [column, row] = [Math.floor(place[0]!), Math.floor(place[1]!)];
    return Math.abs(pixel(sphere, column, row)[0]! - pixel(SPHERE, column, row)[0]!);
  };
  expect(changeAt(1)).toBeLessThan(0.6 * changeAt(12));
  expect(changeAt(12)).toBeGreaterThan(60);
});

test('a change across the wrap is as smooth there as anywhere', () => {
  const width = 2048;
  const flat = colouredSphere(width);
  const view = { ...WRAP, roll: 0, width: 600, height: 500 };
  const before = seen(flat, view);
  // Slanting stripes over the middle of the view, where the sphere's sides meet.
  const after = { ...before, data: before.data.slice() };
  for (let y = 50; y < 450; y++) {
    for (let x = 150; x < 450; x++) {
      const i = 4 * (y * view.width + x);
      for (let c = 0; c < 3; c++) after.data[i + c] = 128 + 110 * Math.sin((2 * x + (3 + c) * y) / (5 + 2 * c) + c);
    }
  }
  const sphere = laid(flat, drain(layBack(pixelsOf(flat), view, before, after, kernels)));
  const step = (left: number, right: number): number => {
    let sum = 0;
    for (let y = 400; y < 624; y++) {
      pixel(sphere, left, y).forEach((value, c) => (sum += Math.abs(value - pixel(sphere, right, y)[c]!)));
    }
    return sum;
  };
  const beside = [1, 2, 3, 4, 5, 6].flatMap((k) => [step(width - 1 - k, width - k), step(k - 1, k)]);
  const mean = beside.reduce((a, b) => a + b) / beside.length;
  expect(Math.abs(step(width - 1, 0) / mean - 1)).toBeLessThan(0.05);
});

test('squares of the sphere hold only what lies in them, and read only what they need', () => {
  const before = seen(SPHERE, DOWN);
  const after = painted(before, [0, 0, 0], { x: 85, y: 70 });
  const reads: number[] = [];
  const sphere = {
    ...pixelsOf(SPHERE),
    crop: (rect: Parameters<typeof cropImage>[1]) => {
      reads.push(rect.y);
      return cropImage(SPHERE, rect);
    },
  };
  const squares = drain(layBack(sphere, DOWN, before, after, kernels));
  expect(Math.min(...reads)).toBeGreaterThanOrEqual(256);
  for (const { rect, image } of squares) expect([image.width, image.height]).toEqual([rect.width, rect.height]);
});

test('an area across the wrap is looked at there; one at a pole straight down', () => {
  const across = viewAround([1000, 250, 1020, 260, 4, 250, 24, 260], SPHERE);
  expect(Math.abs(across.yaw)).toBeGreaterThan(178);
  expect(Math.abs(across.pitch)).toBeLessThan(5);
  const around = Array.from({ length: 40 }, (_, k) => [k * 25, 480]).flat();
  expect(viewAround(around, SPHERE)).toMatchObject({ pitch: -90, yaw: 0 });
  expect(viewAround([512, 20, 100, 15], SPHERE).pitch).toBe(90);
  const points = new Float64Array(around);
  sphereToView(viewAround(around, SPHERE), SPHERE)(points, 40);
  const { width } = viewAround(around, SPHERE);
  for (const value of points) expect(value > 0 && value < width).toBe(true);
});

test('an area too wide for a direct view, and none, are refused in a sentence', () => {
  const horizon = Array.from({ length: 40 }, (_, k) => [k * 25, 256]).flat();
  expect(() => viewAround(horizon, SPHERE)).toThrow(/too far around for one direct view/);
  expect(() => viewAround([], SPHERE)).toThrow(/Nothing is marked/);
});

test('a view is as fine as the sphere in its middle, and never larger than can be worked on', () => {
  const { width, height } = viewSize(90, 1.5, { width: 4096, height: 2048 });
  expect(width / height).toBeCloseTo(1.5, 2);
  expect(width / 2).toBeGreaterThanOrEqual(4096 / (2 * Math.PI));
  expect(viewSize(130, 0.5, { width: 11_000, height: 5500 }).height).toBeLessThanOrEqual(4096);
});

test('a turned sphere shows in each direction what was there before in another', () => {
  const turn = rotationOf({ yaw: 0.4, pitch: -0.2, roll: 0.3 });
  const turned = drain(lookAround(pixelsOf(SPHERE), turnedToSphere(turn, SPHERE), SPHERE, kernels));
  const inverse = [0, 3, 6, 1, 4, 7, 2, 5, 8].map((k) => turn[k]!) as unknown as typeof turn;
  const colourAt = (x: number, y: number): number[] =>
    colourOf(turnDirection(directionOnSphere(x + 0.5, y + 0.5, SPHERE), inverse));
  expect(worst(turned, colourAt, 13)).toBeLessThanOrEqual(2);
  const before = seen(SPHERE, AHEAD);
  const after = seen(turned, turnedView(AHEAD, turn));
  expect(worst(after, (x, y) => pixel(before, x, y))).toBeLessThanOrEqual(3);
});

test('a small planet has the ground in its middle and the horizon around it', () => {
  const size = { width: 200, height: 200 };
  const planet = drain(lookAround(pixelsOf(SPHERE), planetToSphere(size, 0, 0.5, SPHERE), size, kernels));
  const near = (x: number, y: number, direction: [number, number, number]): void =>
    pixel(planet, x, y).forEach((value, c) => expect(Math.abs(value - colourOf(direction)[c]!)).toBeLessThan(6));
  near(100, 100, [0, 1, 0]);
  near(100, 50, [0, 0, 1]);
  near(150, 100, [1, 0, 0]);
});

test('a part of a sphere is laid where it belongs, the rest without a picture', () => {
  const full = { width: 1024, height: 512 };
  const part = { x: 100, y: 80, width: 300, height: 200 };
  const picture = cropImage(SPHERE, part);
  const sphere = placedOnSphere(picture, { full, part });
  expect(sameBytes(cropImage(sphere, part), picture)).toBe(true);
  expect(sphere.data[3]).toBe(0);
  expect(isWhole({ full, part })).toBe(false);
  expect(() => placedOnSphere(SPHERE, { full, part })).toThrow(/size/);
});
