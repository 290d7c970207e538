import type { PlaneCorners } from '../planes/findPlanes.ts';
import { isOnSide, planParts, type Part } from './parts.ts';

const rectangle = (width: number, height: number, x: number, y: number, w: number, h: number): Uint8Array => {
  const hole = new Uint8Array(width * height);
  for (let row = y; row < y + h; row++) hole.fill(255, row * width + x, row * width + x + w);
  return hole;
};

/** Adds one wherever the part lies in a picture that is so wide. */
function countPixels({ region, pixelsOf }: Part, across: number, times: Uint8Array): void {
  for (let i = 0; i < pixelsOf.length; i++) {
    if (pixelsOf[i]) times[(region.y + Math.floor(i / region.width)) * across + region.x + (i % region.width)]!++;
  }
}

test('a compact hole between known places is one part that looks at what is near', () => {
  const hole = rectangle(1600, 1200, 500, 400, 600, 300);
  const box = { x: 500, y: 400, width: 600, height: 300 };
  const size = { width: 1600, height: 1200 };
  const [part, ...more] = planParts(hole, box, size, [], 'near');
  expect(more).toEqual([]);
  expect([part!.pixels, part!.region, part!.box]).toEqual([
    180_000,
    { x: 320, y: 220, width: 960, height: 660 },
    { x: 180, y: 180, width: 600, height: 300 },
  ]);
  const times = new Uint8Array(hole.length);
  countPixels(part!, size.width, times);
  expect(times.every((count, i) => count === (hole[i] ? 1 : 0))).toBe(true);
  const all = { x: 0, y: 0, width: 1600, height: 1200 };
  expect(planParts(hole, box, size, [], 'far')[0]!.region).toEqual(all);
  // Donors that were chosen may lie anywhere, and past the edge likeness may.
  expect(planParts(hole, box, size, [], 'near', { x: 0, y: 0, width: 50, height: 50 })[0]!.region).toEqual(all);
  const margin = rectangle(1600, 1200, 0, 0, 300, 1200);
  expect(planParts(margin, { x: 0, y: 0, width: 300, height: 1200 }, size, [], 'near')[0]!.region).toEqual(all);
});

test('a long place is cut unless it lies on a plane, where its lines would step', () => {
  const size = { width: 900, height: 300 };
  const hole = rectangle(900, 300, 200, 100, 500, 100);
  const floor: PlaneCorners = {
    corners: [
      { x: 0, y: 0 },
      { x: 900, y: 0 },
      { x: 900, y: 300 },
      { x: 0, y: 300 },
    ],
  };
  const box = { x: 200, y: 100, width: 500, height: 100 };
  for (const looks of ['near', 'far'] as const) {
    const pieces = planParts(hole, box, size, [], looks);
    expect(pieces.map(({ isNear, region }) => [isNear, region.height])).toEqual([
      [true, 292],
      [true, 292],
    ]);
  }
  expect(planParts(hole, box, size, [floor], 'near')).toHaveLength(1);
});

test('each pixel of a hole of 9 megapixels is in exactly one tile, none of them above 4', () => {
  const size = { width: 6000, height: 2000 };
  const hole = rectangle(size.width, size.height, 500, 100, 5000, 1800);
  const parts = planParts(hole, { x: 500, y: 100, width: 5000, height: 1800 }, size, [], 'near');
  expect(parts.length).toBeGreaterThanOrEqual(3);
  const times = new Uint8Array(hole.length);
  for (const part of parts) {
    expect(part.pixels).toBeLessThanOrEqual(4_000_000);
    countPixels(part, size.width, times);
  }
  expect(times.every((count, i) => count === (hole[i] ? 1 : 0))).toBe(true);
});

test('what lies on a plane comes first, the rest after it', () => {
  const size = { width: 200, height: 200 };
  const hole = rectangle(200, 200, 60, 60, 80, 80);
  const plane: PlaneCorners = {
    corners: [
      { x: 0, y: 100 },
      { x: 200, y: 100 },
      { x: 220, y: 200 },
      { x: -20, y: 200 },
    ],
  };
  const parts = planParts(hole, { x: 60, y: 60, width: 80, height: 80 }, size, [plane], 'near');
  expect(parts.map((part) => [part.pixels, part.plane !== undefined])).toEqual([
    [80 * 40, true],
    [80 * 40, false],
  ]);
});

test('where a plane ends at an edge of two materials, what is left is parted along it', () => {
  const size = { width: 200, height: 200 };
  const hole = rectangle(200, 200, 60, 60, 80, 80);
  const plane: PlaneCorners = {
    // Only the left half of what lies above the edge at y = 100.
    corners: [
      { x: 0, y: 0 },
      { x: 100, y: 0 },
      { x: 100, y: 100 },
      { x: 0, y: 100 },
    ],
    edge: [0, -1, 100],
  };
  const parts = planParts(hole, { x: 60, y: 60, width: 80, height: 80 }, size, [plane], 'near');
  expect(parts.map((part) => [part.pixels, part.side?.isOnPlane])).toEqual([
    [40 * 40, undefined],
    [40 * 40, true],
    [80 * 40, false],
  ]);
  const narrow = rectangle(200, 200, 60, 60, 41, 80);
  const [, rest, ...more] = planParts(narrow, { x: 60, y: 60, width: 41, height: 80 }, size, [plane], 'near');
  // The sliver beside the plane goes with the rest.
  expect([rest!.pixels, rest!.side?.isOnPlane, more.length]).toEqual([41 * 80 - 40 * 40, false, 0]);
});

test('places far apart each look at their own surroundings, and see planes from there', () => {
  const size = { width: 1000, height: 400 };
  const hole = rectangle(1000, 400, 100, 100, 50, 40);
  for (let y = 300; y < 340; y++) hole.fill(255, y * 1000 + 800, y * 1000 + 840);
  const box = { x: 100, y: 100, width: 740, height: 240 };
  const wall: PlaneCorners = {
    corners: [
      { x: 700, y: 200 },
      { x: 1000, y: 200 },
      { x: 1000, y: 320 },
      { x: 700, y: 320 },
    ],
    edge: [0, -1, 320],
  };
  const [first, onWall, below, ...more] = planParts(hole, box, size, [wall], 'near');
  expect(more).toEqual([]);
  expect([first!.region, first!.box, first!.plane]).toEqual([
    { x: 4, y: 4, width: 242, height: 232 },
    { x: 96, y: 96, width: 50, height: 40 },
    undefined,
  ]);
  expect([onWall!.region, onWall!.box]).toEqual([
    { x: 704, y: 204, width: 232, height: 196 },
    { x: 96, y: 96, width: 40, height: 20 },
  ]);
  expect(onWall!.plane!.corners[2]).toEqual({ x: 296, y: 116 });
  expect([below!.pixels, below!.side!.isOnPlane, isOnSide(below!.side!, 100, 117)]).toEqual([800, false, true]);
  const times = new Uint8Array(hole.length);
  for (const part of [first!, onWall!, below!]) countPixels(part, size.width, times);
  expect(times.every((count, i) => count === (hole[i] ? 1 : 0))).toBe(true);
});

test('a place amid others looks as far as it must to find as much known as unknown', () => {
  const size = { width: 900, height: 900 };
  const hole = rectangle(900, 900, 440, 440, 20, 20);
  // Large ones left and right of it, some way off.
  for (let y = 350; y < 550; y++) {
    hole.fill(255, y * 900 + 224, y * 900 + 424);
    hole.fill(255, y * 900 + 476, y * 900 + 676);
  }
  const parts = planParts(hole, { x: 224, y: 350, width: 452, height: 200 }, size, [], 'near');
  expect(parts).toHaveLength(3);
  for (const { region } of parts) {
    let unknown = 0;
    for (let y = region.y; y < region.y + region.height; y++) {
      for (let x = region.x; x < region.x + region.width; x++) if (hole[y * 900 + x]) unknown++;
    }
    expect(unknown).toBeLessThanOrEqual(0.5 * region.width * region.height);
  }
});

test('each of several tiles beside a plane knows on which side of the edge of two materials it lies', () => {
  const size = { width: 6000, height: 2000 };
  const hole = rectangle(size.width, size.height, 500, 100, 5000, 1800);
  const plane: PlaneCorners = {
    corners: [
      { x: 4000, y: 0 },
      { x: 6000, y: 0 },
      { x: 6000, y: 2000 },
      { x: 4000, y: 2000 },
    ],
    edge: [1, 0, -4000],
  };
  const [onPlane, ...tiles] = planParts(hole, { x: 500, y: 100, width: 5000, height: 1800 }, size, [plane], 'near');
  expect([onPlane!.side, tiles.length]).toEqual([undefined, 2]);
  for (const { region, side } of tiles) {
    const sides = [3999, 4000].map((x) => isOnSide(side!, x - region.x, 500 - region.y));
    expect(sides).toEqual([true, false]);
  }
});
