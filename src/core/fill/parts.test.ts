import type { PlaneCorners } from '../planes/findPlanes.ts';
import { planParts } from './parts.ts';

const rectangle = (width: number, height: number, x: number, y: number, w: number, h: number): Uint8Array => {
  const hole = new Uint8Array(width * height);
  for (let row = y; row < y + h; row++) hole.fill(255, row * width + x, row * width + x + w);
  return hole;
};

test('a usual hole is one part that looks at the whole region', () => {
  const hole = rectangle(100, 80, 30, 20, 40, 30);
  const parts = planParts(hole, { x: 30, y: 20, width: 40, height: 30 }, { width: 100, height: 80 }, []);
  expect(parts).toHaveLength(1);
  expect(parts[0]).toMatchObject({ pixels: 1200, region: { x: 0, y: 0, width: 100, height: 80 } });
});

test('each pixel of a hole of 9 megapixels is in exactly one tile, none of them above 4', () => {
  const size = { width: 6000, height: 2000 };
  const hole = rectangle(size.width, size.height, 500, 100, 5000, 1800);
  const parts = planParts(hole, { x: 500, y: 100, width: 5000, height: 1800 }, size, []);
  expect(parts.length).toBeGreaterThanOrEqual(3);
  const times = new Uint8Array(hole.length);
  for (const part of parts) {
    expect(part.pixels).toBeLessThanOrEqual(4_000_000);
    for (let i = 0; i < times.length; i++) if (part.pixelsOf[i]) times[i]!++;
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
  const parts = planParts(hole, { x: 60, y: 60, width: 80, height: 80 }, size, [plane]);
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
  const parts = planParts(hole, { x: 60, y: 60, width: 80, height: 80 }, size, [plane]);
  expect(parts.map((part) => [part.pixels, part.side?.isOnPlane])).toEqual([
    [40 * 40, undefined],
    [40 * 40, true],
    [80 * 40, false],
  ]);
  const narrow = rectangle(200, 200, 60, 60, 41, 80);
  const [, rest, ...more] = planParts(narrow, { x: 60, y: 60, width: 41, height: 80 }, size, [plane]);
  // The sliver beside the plane goes with the rest.
  expect([rest!.pixels, rest!.side?.isOnPlane, more.length]).toEqual([41 * 80 - 40 * 40, false, 0]);
});
