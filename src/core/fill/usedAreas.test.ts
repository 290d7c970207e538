import type { Part } from './parts.ts';
import type { Sources } from './sources.ts';
import { addUsedAreas, noAreas } from './usedAreas.ts';

const SIZE = { width: 400, height: 200 };

/** A square of 20 px at (100, 60) of which all pixels come from (dx, dy) away. */
function usedBy(dx: number, dy: number) {
  const box = { x: 100, y: 60, width: 20, height: 20 };
  const pixelsOf = new Uint8Array(SIZE.width * SIZE.height);
  for (let y = box.y; y < box.y + box.height; y++) {
    pixelsOf.fill(1, y * SIZE.width + box.x, y * SIZE.width + box.x + box.width);
  }
  const sources = { sourceOf: (x: number, y: number) => ({ x: x + dx, y: y + dy }) } as Sources;
  const used = noAreas(SIZE);
  addUsedAreas(used, { pixelsOf, box } as Part, sources, SIZE.width);
  return used;
}

test('a region has at most 160 squares along, of 4 px at least, and nothing is used at first', () => {
  expect(noAreas(SIZE)).toMatchObject({ side: 4, width: 100, height: 50 });
  expect(noAreas({ width: 6000, height: 4000 })).toMatchObject({ side: 38, width: 158, height: 106 });
  expect(noAreas(SIZE).cells.some(Boolean)).toBe(false);
});

test('exactly the squares that pixels come from count as used', () => {
  const { cells, side, width } = usedBy(40, -20);
  cells.forEach((value, i) => {
    const [x, y] = [side * (i % width), side * Math.floor(i / width)];
    expect(value).toBe(x >= 140 && x < 160 && y >= 40 && y < 60 ? 1 : 0);
  });
});

test('what comes from outside the region marks nothing', () => {
  expect(usedBy(-500, 0).cells.some(Boolean)).toBe(false);
  expect(usedBy(0, 300).cells.some(Boolean)).toBe(false);
});
