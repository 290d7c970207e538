import { createRandom } from '../numeric/random.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { pictureOf } from '../../../tests/support/pictures.ts';
import { findPlanes } from './findPlanes.ts';
import {
  applyHomography,
  areaScaleAt,
  invertHomography,
  isConvexQuad,
  squareToQuad,
  type Point,
} from '../geometry/homography.ts';
import { findLineSegments } from './lineSegments.ts';
import { findVanishingPoints } from './vanishingPoints.ts';

const QUAD: [Point, Point, Point, Point] = [
  { x: 120, y: 90 },
  { x: 430, y: 110 },
  { x: 560, y: 400 },
  { x: 20, y: 380 },
];
const [WIDTH, HEIGHT] = [600, 440];
const TO_PLANE = invertHomography(squareToQuad(QUAD));

/** Tiles on the plane of QUAD, 10 x 8 to its square, seen in perspective and anti-aliased by 9 samples. */
function tiles(): RasterImage {
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    let sum = 0;
    for (let k = 0; k < 9; k++) {
      const { x: u, y: v } = applyHomography(TO_PLANE, x + ((k % 3) + 0.5) / 3, y + (Math.floor(k / 3) + 0.5) / 3);
      const [a, b] = [(u * 10) % 1, (v * 8) % 1];
      const inTile = (t: number): boolean => (t + 1) % 1 > 0.12;
      sum += inTile(a) && inTile(b) ? 170 : 70;
    }
    const value = sum / 9;
    return [value, value, value];
  });
}

test('a homography takes the square to its corners and back, and tells by how much it enlarges', () => {
  const map = squareToQuad(QUAD);
  const corners = [
    applyHomography(map, 0, 0),
    applyHomography(map, 1, 0),
    applyHomography(map, 1, 1),
    applyHomography(map, 0, 1),
  ];
  corners.forEach((corner, k) => {
    expect(corner.x).toBeCloseTo(QUAD[k]!.x, 6);
    expect(corner.y).toBeCloseTo(QUAD[k]!.y, 6);
    const back = applyHomography(TO_PLANE, corner.x, corner.y);
    expect(back.x).toBeCloseTo([0, 1, 1, 0][k]!, 6);
  });
  // A pure scaling by 3 and 2 enlarges areas six times everywhere.
  expect(areaScaleAt([3, 0, 5, 0, 2, 7, 0, 0, 1], 11, 13)).toBeCloseTo(6, 9);
});

test('crossed and flat quadrilaterals are no planes', () => {
  const [a, b, c, d] = QUAD;
  expect(isConvexQuad(QUAD)).toBe(true);
  expect(isConvexQuad([a, c, b, d])).toBe(false);
  expect(isConvexQuad([a, b, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 + 0.5 }, d])).toBe(false);
});

test('the segments of an edge lie on it to a tenth of a pixel', () => {
  const [w, h] = [200, 160];
  const slope = 0.3;
  const luma = new Float32Array(w * h);
  for (let i = 0; i < luma.length; i++) {
    const [x, y] = [(i % w) + 0.5, Math.floor(i / w) + 0.5];
    luma[i] = 60 + 120 * Math.max(0, Math.min(1, 0.5 + (y - 40 - slope * x) / Math.hypot(1, slope)));
  }
  const [longest] = findLineSegments(luma, new Uint8Array(w * h), w, h, 10);
  expect(longest!.length).toBeGreaterThan(150);
  for (const [x, y] of [
    [longest!.x0, longest!.y0],
    [longest!.x1, longest!.y1],
  ] as const) {
    expect(Math.abs(y - 40 - slope * x)).toBeLessThan(0.1);
  }
});

test('in a large picture, too, the edge is found where it lies', () => {
  const [w, h] = [2200, 2000];
  const luma = new Float32Array(w * h).fill(60);
  for (let y = 1960; y < h; y++) luma.fill(180, y * w + 400, y * w + 1400);
  const [longest] = findLineSegments(luma, new Uint8Array(w * h), w, h, 10);
  expect(longest!.length).toBeGreaterThan(950);
  expect(longest!.y0).toBeCloseTo(1960, 0);
  expect(longest!.y1).toBeCloseTo(1960, 0);
});

test('lines through one point give that point, however much clutter lies around', () => {
  const random = createRandom(5);
  const vanishing = { x: 340, y: -120 };
  const at = (x0: number, y0: number, angle: number, length: number) => ({
    x0,
    y0,
    x1: x0 + length * Math.cos(angle),
    y1: y0 + length * Math.sin(angle),
    length,
  });
  const segments = Array.from({ length: 60 }, (_, k) => {
    const [x, y] = [random.below(600), 100 + random.below(300)];
    const towards = Math.atan2(vanishing.y - y, vanishing.x - x);
    return k < 25 ? at(x, y, towards, 60) : at(x, y, random.below(628) / 100, 25);
  });
  const [found] = findVanishingPoints(segments, { x: 300, y: 200 }, 360, 1, { fewest: 5, share: 0.1, most: 1 });
  const [x, y, w] = found!.point;
  expect((x / w) * 360 + 300).toBeCloseTo(vanishing.x, 0);
  expect((y / w) * 360 + 200).toBeCloseTo(vanishing.y, 0);
});

test('edges that run any way meet somewhere by chance only, and that is told', () => {
  const random = createRandom(9);
  const segments = Array.from({ length: 300 }, () => {
    const [x, y, angle] = [random.below(600), random.below(440), random.below(628) / 100];
    return { x0: x, y0: y, x1: x + 14 * Math.cos(angle), y1: y + 14 * Math.sin(angle), length: 14 };
  });
  const limits = { fewest: 5, share: 0.01, most: 1 };
  const [byChance] = findVanishingPoints(segments, { x: 300, y: 220 }, 370, 1, limits);
  expect(byChance!.contrast).toBeLessThan(2.5);
  const [shown] = findVanishingPoints(
    segments.map((segment, k) => {
      if (k % 3 > 0) return segment;
      const towards = Math.atan2(-300 - segment.y0, 900 - segment.x0);
      return { ...segment, x1: segment.x0 + 14 * Math.cos(towards), y1: segment.y0 + 14 * Math.sin(towards) };
    }),
    { x: 300, y: 220 },
    370,
    1,
    limits,
  );
  expect(shown!.contrast).toBeGreaterThan(4);
});

test('a wall and the ground before it are parted where their materials meet, even behind the hole', () => {
  const [width, height, base] = [720, 480, 250];
  // Seen from the side: all level joints run to one point far right, those across the ground to another.
  const far = { x: 2600, y: 60 };
  const deep = { x: 300, y: 60 };
  const through = (point: Point, x: number, y: number, at: number): number =>
    point.y + ((y - point.y) * (at - point.x)) / (x - point.x);
  const baseAt = (x: number): number => through(far, 0, base, x);
  const picture = pictureOf(width, height, (x, y) => {
    // Where the joint through this pixel meets the left rim.
    const row = through(far, x + 0.5, y + 0.5, 0);
    if (row < base) {
      const course = Math.floor((base - row) / 14);
      const isJoint = (base - row) % 14 < 3 || (x + 20 * (course % 2)) % 40 < 3;
      return isJoint ? [190, 180, 165] : [180, 95, 70];
    }
    // Rows of stones grow towards the eye.
    const depth = Math.log((row - 60) / (base - 60)) * 12;
    const across = deep.x + ((x - deep.x) * 200) / (y + 0.5 - deep.y);
    const isJoint = depth % 1 < 0.16 || ((across % 30) + 30) % 30 < 3;
    return isJoint ? [70, 74, 60] : [150, 150, 142];
  });
  const hole = new Uint8Array(width * height);
  for (let y = 190; y < 330; y++) hole.fill(1, y * width + 290, y * width + 430);
  const planes = findPlanes(picture, hole);
  expect(planes.length).toBeGreaterThan(0);
  // Some side of each plane's rectangle runs along the foot of the wall.
  for (const { corners } of planes) {
    const offsets = corners.map((corner, k) => {
      const next = corners[(k + 1) % 4]!;
      const heightAt = (x: number): number =>
        corner.y + ((x - corner.x) * (next.y - corner.y)) / (next.x - corner.x || 1e-9);
      return Math.max(Math.abs(heightAt(290) - baseAt(290)), Math.abs(heightAt(430) - baseAt(430)));
    });
    expect(Math.min(...offsets)).toBeLessThan(6);
  }
});

test('the plane of rendered tiles is found: its grid runs along theirs to 0.2 px around the hole', () => {
  const hole = new Uint8Array(WIDTH * HEIGHT);
  for (let y = 200; y < 290; y++) hole.fill(1, y * WIDTH + 250, y * WIDTH + 350);
  const [plane] = findPlanes(tiles(), hole);
  expect(plane).toBeDefined();
  const found = squareToQuad(plane!.corners);
  const toFound = invertHomography(found);
  // Along a line of the true plane one of the found coordinates must stay the same.
  const truth = squareToQuad(QUAD);
  for (const along of ['u', 'v'] as const) {
    for (const at of [0.4, 0.6]) {
      const line = [0.35, 0.5, 0.65].map((t) =>
        along === 'u' ? applyHomography(truth, t, at) : applyHomography(truth, at, t),
      );
      const inFound = line.map((p) => applyHomography(toFound, p.x, p.y));
      const spread = (key: 'x' | 'y'): number =>
        Math.max(...inFound.map((p) => p[key])) - Math.min(...inFound.map((p) => p[key]));
      const constant = spread('x') < spread('y') ? 'x' : 'y';
      const middle = inFound[1]!;
      for (const [k, p] of inFound.entries()) {
        const straight = constant === 'x' ? { x: middle.x, y: p.y } : { x: p.x, y: middle.y };
        const back = applyHomography(found, straight.x, straight.y);
        expect(Math.hypot(back.x - line[k]!.x, back.y - line[k]!.y)).toBeLessThan(0.2);
      }
    }
  }
});

test('where a plane shows is told by its short edges as well, such as the ends of many bricks', () => {
  const quad: typeof QUAD = [
    { x: 60, y: 40 },
    { x: 820, y: 130 },
    { x: 820, y: 470 },
    { x: 60, y: 560 },
  ];
  const [width, height] = [880, 600];
  const toPlane = invertHomography(squareToQuad(quad));
  const wall = pictureOf(width, height, (x, y) => {
    let sum = 0;
    for (let k = 0; k < 9; k++) {
      const { x: u, y: v } = applyHomography(toPlane, x + ((k % 3) + 0.5) / 3, y + (Math.floor(k / 3) + 0.5) / 3);
      const row = Math.floor(v * 40);
      const isWall = u >= 0 && u <= 1 && v >= 0 && v <= 1;
      const isBrick = v * 40 - row > 0.2 && (u * 20 + (row % 2) * 0.5) % 1 > 0.08;
      sum += isWall ? (isBrick ? 170 : 70) : 120;
    }
    return [sum / 9, sum / 9, sum / 9];
  });
  const hole = new Uint8Array(width * height);
  for (let y = 220; y < 380; y++) hole.fill(1, y * width + 360, y * width + 480);
  const [plane] = findPlanes(wall, hole);
  expect(plane!.support).toBeGreaterThan(0.9);
  expect(Math.max(...plane!.corners.map(({ x }) => x))).toBeGreaterThan(790);
});

test('no plane is found in what has no edges, or lies square to the eye', () => {
  const random = createRandom(2);
  const noise = pictureOf(300, 240, () => {
    const value = 120 + random.below(20);
    return [value, value, value];
  });
  const bricks = pictureOf(300, 240, (x, y) => {
    const value = y % 16 < 2 || (x + (Math.floor(y / 16) % 2) * 15) % 30 < 2 ? 60 : 160;
    return [value, value, value];
  });
  const hole = new Uint8Array(300 * 240);
  for (let y = 90; y < 150; y++) hole.fill(1, y * 300 + 120, y * 300 + 180);
  expect(findPlanes(noise, hole)).toEqual([]);
  expect(findPlanes(bricks, hole)).toEqual([]);
});
