import { kernels } from '../../../tests/support/kernels.ts';
import { pictureOf } from '../../../tests/support/pictures.ts';
import { applyHomography, invertHomography, squareToQuad } from '../geometry/homography.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import type { SquareShifts } from './offsetField.ts';
import { planeSources } from './planeSources.ts';
import { pixelsOnPlane, viewPlane, type PlaneView } from './planeView.ts';

const [WIDTH, HEIGHT] = [240, 200];
/** A floor that narrows into the distance. */
const FLOOR: PlaneCorners = {
  corners: [
    { x: 90, y: 60 },
    { x: 150, y: 60 },
    { x: 230, y: 190 },
    { x: 10, y: 190 },
  ],
};
const TILES = 12;
const toUnit = invertHomography(squareToQuad(FLOOR.corners));
/** Tiles in two greys on the floor, blue around it. */
const photo = pictureOf(WIDTH, HEIGHT, (x, y) => {
  const { x: u, y: v } = applyHomography(toUnit, x + 0.5, y + 0.5);
  if (u < 0 || v < 0 || u >= 1 || v >= 1) return [20, 40, 160];
  return (Math.floor(u * TILES) + Math.floor(v * TILES)) % 2 === 0 ? [200, 200, 200] : [90, 90, 90];
});
const hole = new Uint8Array(WIDTH * HEIGHT).map((_, i) => {
  const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
  return x >= 100 && x < 130 && y >= 110 && y < 135 ? 1 : 0;
});
const everywhere = { hole: new Uint8Array(WIDTH * HEIGHT) };
const whole = { x: 0, y: 0, width: WIDTH, height: HEIGHT };
const view = viewPlane(photo, hole, whole, hole, everywhere, FLOOR, kernels);

/** Where a point of the floor, in shares of its sides, lies in the view. */
const inView = (u: number, v: number): { x: number; y: number } => {
  const at = applyHomography(squareToQuad(FLOOR.corners), u, v);
  return applyHomography(view.toView, at.x, at.y);
};

test('seen square on, tiles are equally large rectangles wherever they lie', () => {
  const across = [0.3, 0.5, 0.7].map((u) => inView(u + 1 / TILES, 0.6).x - inView(u, 0.6).x);
  const down = [0.3, 0.5, 0.7].map((v) => inView(0.4, v + 1 / TILES).y - inView(0.4, v).y);
  for (const size of across) expect(size).toBeCloseTo(across[0]!, 6);
  for (const size of down) expect(size).toBeCloseTo(down[0]!, 6);
  expect(inView(0.4, 0.3).x).toBeCloseTo(inView(0.4, 0.9).x, 6);
});

test('a view is about as large as the place in the picture, and takes its hole along', () => {
  const { width, height } = view.box;
  expect(width / 30).toBeGreaterThan(0.8);
  expect(width / 30).toBeLessThan(1.6);
  expect(height / 25).toBeGreaterThan(0.8);
  expect(height / 25).toBeLessThan(1.6);
});

test('beside the picture nothing is rebuilt but where something unknown ends there, and nothing copied', () => {
  // A third of the floor lies to the right of the picture.
  const wide: PlaneCorners = {
    corners: [
      { x: 140, y: 60 },
      { x: 260, y: 60 },
      { x: 350, y: 190 },
      { x: 60, y: 190 },
    ],
  };
  const marked = hole.map((_, i) =>
    i % WIDTH >= 200 && i % WIDTH < 230 && i >= 150 * WIDTH && i < 170 * WIDTH ? 1 : 0,
  );
  const viewOf = (unknown: Uint8Array): PlaneView =>
    viewPlane(photo, marked, whole, unknown, everywhere, wide, kernels);
  const besideIt = ({ toPicture, image, hole: rebuilt }: PlaneView) =>
    Array.from(rebuilt, (isHole, i) => ({ isHole, alpha: image.data[4 * i + 3]!, i })).filter(({ i }) => {
      const { x, y } = applyHomography(toPicture, (i % image.width) + 0.5, Math.floor(i / image.width) + 0.5);
      return x > WIDTH + 2 && y > 152 && y < 168;
    });
  const apart = besideIt(viewOf(marked));
  expect(apart.length).toBeGreaterThan(500);
  for (const { isHole, alpha } of apart) expect([isHole, alpha]).toEqual([0, 0]);
  const running = marked.map((on, i) => (on || (i % WIDTH >= 200 && i >= 150 * WIDTH && i < 170 * WIDTH) ? 1 : 0));
  for (const { isHole } of besideIt(viewOf(running))) expect(isHole).toBe(1);
});

test('what is drawn far smaller or larger is a donor only where the plane has rows that what is copied keeps to', () => {
  const steep: PlaneCorners = {
    corners: [
      { x: 112, y: 60 },
      { x: 128, y: 60 },
      { x: 230, y: 190 },
      { x: 10, y: 190 },
    ],
  };
  const toSteep = invertHomography(squareToQuad(steep.corners));
  const viewOf = (levelOf: (u: number, v: number) => number): PlaneView => {
    const picture = pictureOf(WIDTH, HEIGHT, (x, y) => {
      const { x: u, y: v } = applyHomography(toSteep, x + 0.5, y + 0.5);
      const level = levelOf(Math.floor(u * TILES), Math.floor(v * TILES));
      return [level, level, level];
    });
    const near = hole.map((_, i) => (i % WIDTH > 100 && i % WIDTH < 140 && Math.floor(i / WIDTH) > 150 ? 1 : 0));
    return viewPlane(picture, near, whole, near, everywhere, steep, kernels);
  };
  const donorsIn = ({ image }: PlaneView): number => image.data.filter((a, i) => i % 4 === 3 && a === 255).length;
  const rows = (v: number): number => (v % 2 === 0 ? 90 : 200);
  const boards = viewOf((_, v) => rows(v));
  // Courses whose stones differ in tone.
  const bricks = viewOf((u, v) => rows(v) + (u % 2 === 0 ? 0 : 7));
  const tiles = viewOf((u, v) => rows(u + v));
  expect([boards, bricks, tiles].map(({ hasRows }) => hasRows)).toEqual([true, true, false]);
  expect([boards, bricks, tiles].map(({ rowsRunOn }) => rowsRunOn)).toEqual([true, false, false]);
  expect(donorsIn(boards)).toBeGreaterThan(1.1 * donorsIn(tiles));
});

test('copied by two tiles along the floor the hole shows its own tiles again, each as large as it is there', () => {
  const { width, height } = view.image;
  const step = Math.round(inView(0.5 + 2 / TILES, 0.5).x - inView(0.5, 0.5).x);
  const cells: SquareShifts = {
    left: 0,
    top: 0,
    width,
    height,
    factor: 1,
    dx: new Int32Array(width * height).fill(step),
    dy: new Int32Array(width * height),
  };
  const sources = planeSources(photo, hole, view, cells);
  const box = { x: 100, y: 110, width: 30, height: 25 };
  const out = new Uint8ClampedArray(4 * box.width * box.height);
  sources.copy(hole, box, out);
  let alike = 0;
  for (let y = 0; y < box.height; y++) {
    for (let x = 0; x < box.width; x++) {
      const truth = photo.data[4 * ((y + box.y) * WIDTH + x + box.x)]!;
      if (Math.abs(out[4 * (y * box.width + x)]! - truth) < 40) alike++;
    }
  }
  // The shift is rounded to whole px: edges of tiles may lie off by half of one.
  expect(alike / (box.width * box.height)).toBeGreaterThan(0.85);
  const from = sources.sourceOf(115, 120);
  const [here, there] = [applyHomography(toUnit, 115.5, 120.5), applyHomography(toUnit, from.x, from.y)];
  expect((there.x - here.x) * TILES).toBeCloseTo(2, 0);
  expect((there.y - here.y) * TILES).toBeCloseTo(0, 1);
});

test('a pixel whose source is no place to copy from shows what its neighbour does, even the first of all', () => {
  const { width, height } = view.image;
  const dx = new Int32Array(width * height).fill(Math.round(inView(0.5 + 2 / TILES, 0.5).x - inView(0.5, 0.5).x));
  const cells: SquareShifts = { width, height, factor: 1, dx, dy: new Int32Array(width * height), left: 0, top: 0 };
  const first = planeSources(photo, hole, view, cells).sourceOf(100, 110);
  const forbidden = hole.slice();
  forbidden[Math.floor(first.y) * WIDTH + Math.floor(first.x)] = 1;
  const sources = planeSources(photo, forbidden, view, cells);
  expect(sources.sample(sources.groupAt(100, 110), 100, 110, new Float32Array(3))).toBe(false);
  const row = new Uint8ClampedArray(4 * 30);
  sources.copy(hole, { x: 100, y: 110, width: 30, height: 1 }, row);
  const next = Array.from({ length: 30 }, (_, x) => x).find((x) =>
    sources.sample(sources.groupAt(100 + x, 110), 100 + x, 110, new Float32Array(3)),
  )!;
  expect(next).toBeGreaterThan(0);
  expect(row.subarray(0, 4)).toEqual(row.subarray(4 * next, 4 * next + 4));
  expect(row[0]).toBeGreaterThan(60);
});

test('only what lies inside the corners is on the plane, and only where its edges show if that is known', () => {
  const all = new Uint8Array(WIDTH * HEIGHT).fill(1);
  const on = pixelsOnPlane(FLOOR, all, WIDTH, whole);
  expect(on[100 * WIDTH + 120]).toBe(1);
  expect(on[100 * WIDTH + 20]).toBe(0);
  const side = 20;
  const shown = { x: 0, y: 0, side, width: WIDTH / side, data: new Uint8Array((WIDTH / side) * (HEIGHT / side)) };
  shown.data[Math.floor(100 / side) * shown.width + Math.floor(120 / side)] = 1;
  const partly = pixelsOnPlane({ ...FLOOR, shown }, all, WIDTH, whole);
  expect(partly.reduce((sum, bit) => sum + bit, 0)).toBe(side * side);
});

test('of donors that were chosen only their pixels may be copied from, wherever the view shows them', () => {
  const donors = new Uint8Array(WIDTH * HEIGHT).map((_, i) => (i % WIDTH < 120 ? 255 : 0));
  const chosen = viewPlane(photo, hole, whole, hole, { ...everywhere, donors }, FLOOR, kernels);
  let [allowed, wrong] = [0, 0];
  for (let i = 0; i < chosen.hole.length; i++) {
    if (chosen.hole[i]) continue;
    const { width } = chosen.image;
    const at = applyHomography(chosen.toPicture, (i % width) + 0.5, Math.floor(i / width) + 0.5);
    const isDonor = chosen.image.data[4 * i + 3] !== 0;
    if (isDonor) allowed++;
    if (isDonor && at.x >= 120) wrong++;
  }
  expect(wrong).toBe(0);
  expect(allowed).toBeGreaterThan(500);
});
