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
