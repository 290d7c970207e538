import { cameraAt, shoot } from '../../../tests/support/sweep.ts';
import { applyHomography } from '../geometry/homography.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { createRandom } from '../numeric/random.ts';
import { drain } from '../progress.ts';
import { adjustBundle } from './adjustBundle.ts';
import { alignFrames } from './align.ts';
import { anglesOf, carryPoint, homographyBetween, rayThrough, rotationOf, type Camera } from './camera.ts';
import { evenOut } from './evenOut.ts';
import { findExposure } from './exposure.ts';
import { groupFrames, isOverlap, strongestTree, type Overlap } from './overlaps.ts';
import { refineOverlap, type GreyFrame } from './refineOverlap.ts';
import { startCameras } from './startCameras.ts';
import { straighten, turnAll, turnForLine } from './straighten.ts';

const DEGREES = Math.PI / 180;
const SIZE = { width: 400, height: 300 };
const FOCAL = 390;
const TAKEN = [cameraAt(-32, 2, 1, FOCAL), cameraAt(1, -3, -1.5, FOCAL), cameraAt(30, 1, 0.5, FOCAL)];

/** Points of a grid in `a` that `b` shows, where it shows them, with some px of deviation. */
function overlapOf(a: number, b: number, cameras: readonly Camera[], deviationPx = 0): Overlap {
  const random = createRandom(3);
  const off = (): number => (random.below(2001) / 1000 - 1) * deviationPx;
  const [from, to]: [number[], number[]] = [[], []];
  const at = [0, 0, 0];
  for (let y = 10; y < SIZE.height; y += 20) {
    for (let x = 10; x < SIZE.width; x += 20) {
      carryPoint(x, y, cameras[a]!, SIZE, cameras[b]!, SIZE, at);
      if (!(at[0]! > 0 && at[1]! > 0 && at[0]! < SIZE.width && at[1]! < SIZE.height)) continue;
      from.push(x, y);
      to.push(at[0]! + off(), at[1]! + off());
    }
  }
  return { a, b, from: Float64Array.from(from), to: Float64Array.from(to), compared: from.length / 2 };
}

/** The angle between how two frames are turned to each other and how they should be, degrees. */
function turnErrorDeg(found: readonly Camera[], taken: readonly Camera[], a: number, b: number): number {
  const out = [0, 0, 0];
  carryPoint(200, 150, taken[a]!, SIZE, taken[b]!, SIZE, out);
  const [x, y] = [out[0]!, out[1]!];
  carryPoint(200, 150, found[a]!, SIZE, found[b]!, SIZE, out);
  return Math.hypot(out[0]! - x, out[1]! - y) / FOCAL / DEGREES;
}

const greyOf = ({ width, height, data }: RasterImage): GreyFrame => ({
  width,
  height,
  scale: 1,
  data: Uint8Array.from({ length: width * height }, (_, i) => data[4 * i + 1]!),
});

test('angles become a rotation and come back', () => {
  const angles = { yaw: 2.1, pitch: -0.4, roll: 0.2 };
  const back = anglesOf(rotationOf(angles));
  expect(back.yaw).toBeCloseTo(2.1, 12);
  expect(back.pitch).toBeCloseTo(-0.4, 12);
  expect(back.roll).toBeCloseTo(0.2, 12);
});

test('a bent lens is undone by the ray through a point', () => {
  const camera = cameraAt(0, 0, 0, FOCAL, -0.12);
  const ray = [0, 0, 0];
  rayThrough(390, 290, SIZE, camera, ray);
  const square = ray[0]! ** 2 + ray[1]! ** 2;
  expect(SIZE.width / 2 + ray[0]! * FOCAL * (1 - 0.12 * square)).toBeCloseTo(390, 3);
});

test('without distortion, points are carried by a homography; what lies behind is nowhere', () => {
  const h = homographyBetween(TAKEN[0]!, SIZE, TAKEN[1]!, SIZE);
  const at = [0, 0, 0];
  carryPoint(350, 90, TAKEN[0]!, SIZE, TAKEN[1]!, SIZE, at);
  const by = applyHomography(h, 350, 90);
  expect(by.x).toBeCloseTo(at[0]!, 6);
  expect(by.y).toBeCloseTo(at[1]!, 6);
  carryPoint(200, 150, TAKEN[0]!, SIZE, cameraAt(150, 0, 0, FOCAL), SIZE, at);
  expect(at[0]).toBeNaN();
});

test('frames that hang together are one group, and are reached over the strongest overlaps', () => {
  const of = (a: number, b: number, count: number): Overlap => ({
    a,
    b,
    from: new Float64Array(2 * count),
    to: new Float64Array(2 * count),
    compared: count,
  });
  const overlaps = [of(0, 2, 30), of(2, 3, 90), of(0, 3, 60), of(1, 4, 50)];
  expect(groupFrames(6, overlaps)).toEqual([[0, 2, 3], [1, 4], [5]]);
  expect(strongestTree(0, overlaps.slice(0, 3)).map(({ frame }) => frame)).toEqual([3, 2]);
  expect(isOverlap(40, 100)).toBe(true);
  expect(isOverlap(38, 100)).toBe(false);
});

test('turns and focal length are found from points half a px off', () => {
  const overlaps = [overlapOf(0, 1, TAKEN, 0.5), overlapOf(1, 2, TAKEN, 0.5)];
  const sizes = [SIZE, SIZE, SIZE];
  const start = startCameras(sizes, overlaps, 1);
  // The tried angles of view are 4 % apart.
  expect(Math.abs(start[0]!.focalPx / FOCAL - 1)).toBeLessThan(0.06);
  const found = adjustBundle(start, sizes, overlaps, [1, 0, 2], 2, false);
  // Half a px over an overlap of 80 px leaves about as much open.
  expect(Math.abs(found[0]!.focalPx / FOCAL - 1)).toBeLessThan(0.01);
  expect(turnErrorDeg(found, TAKEN, 0, 1)).toBeLessThan(0.08);
  expect(turnErrorDeg(found, TAKEN, 1, 2)).toBeLessThan(0.08);
});

test('wrong pairs pull little, and a bent lens is found', () => {
  const bent = TAKEN.map((camera) => ({ ...camera, bend: -0.08 }));
  const overlaps = [overlapOf(0, 1, bent), overlapOf(1, 2, bent)];
  overlaps.forEach(({ to }) => {
    for (let k = 0; k < 20; k += 2) to[k] = (to[k]! * 7) % SIZE.width;
  });
  const sizes = [SIZE, SIZE, SIZE];
  const found = adjustBundle(startCameras(sizes, overlaps, 1), sizes, overlaps, [1, 0, 2], 0.5, true);
  expect(found[0]!.bend).toBeCloseTo(-0.08, 1);
  expect(turnErrorDeg(found, bent, 0, 1)).toBeLessThan(0.1);
});

describe('frames as they were shot', () => {
  const gains = [1.1, 0.8, 1.3];
  const frames = TAKEN.map((camera, k) => shoot(camera, SIZE, { gain: gains[k]!, falloff: -0.2 }));
  const greys = frames.map(greyOf);
  const sizes = [SIZE, SIZE, SIZE];

  test('points are placed to a tenth of a px although the cameras are a px off and the light differs', () => {
    const guessed = TAKEN.map((camera, k) => (k === 1 ? cameraAt(1.12, -3.1, -1.5, FOCAL) : camera));
    const { from } = overlapOf(0, 1, TAKEN);
    const found = refineOverlap(0, 1, from, guessed, sizes, greys);
    const off = [...found.from.keys()]
      .filter((k) => k % 2 === 0)
      .map((k) => {
        const at = [0, 0, 0];
        carryPoint(found.from[k]!, found.from[k + 1]!, TAKEN[0]!, SIZE, TAKEN[1]!, SIZE, at);
        return Math.hypot(at[0]! - found.to[k]!, at[1]! - found.to[k + 1]!);
      });
    expect(off.length).toBeGreaterThan(20);
    expect(off.sort((x, y) => x - y)[off.length >> 1]).toBeLessThan(0.1);
  });

  test('from features a px or two off, all cameras are found to a fraction of a px', () => {
    const rough = [overlapOf(0, 1, TAKEN, 1.5), overlapOf(1, 2, TAKEN, 1.5)];
    const grid = Float32Array.from({ length: 2 * 600 }, (_, k) =>
      k % 2 === 0 ? 10 + 13 * ((k / 2) % 30) : 10 + 14 * Math.floor(k / 60),
    );
    const alignment = drain(alignFrames(sizes, rough, [grid, grid, grid], greys));
    expect(alignment.frames).toEqual([0, 1, 2]);
    expect(Math.abs(alignment.cameras[0]!.focalPx / FOCAL - 1)).toBeLessThan(0.005);
    // A twentieth of a degree is a third of a px here.
    expect(turnErrorDeg(alignment.cameras, TAKEN, 0, 1)).toBeLessThan(0.05);
    expect(turnErrorDeg(alignment.cameras, TAKEN, 2, 1)).toBeLessThan(0.05);
  });

  test('gains and falloff are found within two percent, and frames made equally bright', () => {
    const overlaps = [overlapOf(0, 1, TAKEN), overlapOf(1, 2, TAKEN)];
    const exposure = findExposure(overlaps, TAKEN, sizes, frames);
    for (const k of [1, 2]) {
      expect(exposure.gains[k]![1] / exposure.gains[0]![1] / (gains[k]! / gains[0]!)).toBeCloseTo(1, 1.7);
    }
    const corner = exposure.falloff[0] + exposure.falloff[1];
    expect(corner).toBeCloseTo(-0.2, 1);
    const even = frames.map((frame, k) => evenOut(frame, exposure, k));
    const differences = (of: readonly RasterImage[]): number => {
      const { from, to } = overlaps[0]!;
      let sum = 0;
      for (let k = 0; k < from.length; k += 2) {
        const at = (frame: number, points: Float64Array): number =>
          of[frame]!.data[4 * (Math.floor(points[k + 1]!) * SIZE.width + Math.floor(points[k]!)) + 1]!;
        sum += at(0, from) - at(1, to);
      }
      return Math.abs(sum / (from.length / 2));
    };
    expect(differences(frames)).toBeGreaterThan(10);
    expect(differences(even)).toBeLessThan(1.5);
  });
});

test('a sweep held askew comes out level, its middle ahead', () => {
  const askew = turnAll(
    [-50, -20, 15, 45].map((yaw, k) => cameraAt(yaw, 0, k % 2 ? 0.4 : -0.4, FOCAL)),
    rotationOf({ yaw: 2, pitch: 0.3, roll: 0.2 }),
  );
  const level = straighten(askew, [0, 1, 2, 3]);
  for (const camera of level) {
    const { pitch, roll } = anglesOf(camera.rotation);
    expect(Math.abs(pitch / DEGREES)).toBeLessThan(1);
    expect(Math.abs(roll / DEGREES)).toBeLessThan(1);
  }
  const yaws = level.map((camera) => anglesOf(camera.rotation).yaw / DEGREES);
  expect(yaws[0]! + yaws[3]!).toBeCloseTo(0, 6);
});

test('a column keeps its height: what is looked at in the mean is the horizon', () => {
  const column = [-30, 0, 30].map((pitch) => cameraAt(0, pitch, 0.3, FOCAL));
  const level = straighten(turnAll(column, rotationOf({ yaw: 1, pitch: 0, roll: 0 })), [0, 1, 2]);
  expect(anglesOf(level[1]!.rotation).pitch / DEGREES).toBeCloseTo(0, 0);
  expect(anglesOf(level[0]!.rotation).pitch / DEGREES).toBeCloseTo(-30, 0);
});

test('a drawn line becomes level, or upright if it is nearer to that', () => {
  for (const [from, to] of [
    [
      [-0.3, 0.1, 1],
      [0.5, 0.2, 1],
    ],
    [
      [0.4, -0.3, 1],
      [0.45, 0.4, 1],
    ],
  ] as const) {
    const turn = turnForLine(from, to);
    const [a, b] = [from, to].map(([x, y, z]) => {
      const at = applyHomography(turn, x / z, y / z);
      return at;
    });
    // Seen in the direction of the line's middle, which is not straight ahead.
    const heading = Math.atan2(from[0] + to[0], from[2] + to[2]);
    const view = rotationOf({ yaw: -heading, pitch: 0, roll: 0 });
    const [p, q] = [applyHomography(view, a!.x, a!.y), applyHomography(view, b!.x, b!.y)];
    const slope = Math.atan2(q.y - p.y, q.x - p.x) / (Math.PI / 2);
    expect(slope - Math.round(slope)).toBeCloseTo(0, 9);
    expect(Math.abs(Math.round(slope))).toBe(from[0] < 0 ? 0 : 1);
  }
});
