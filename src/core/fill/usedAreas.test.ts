import type { Part } from './parts.ts';
import type { Sources } from './sources.ts';
import { countUses, noUses, repeatShare, usedAreas } from './usedAreas.ts';

const SIZE = { width: 400, height: 200 };

/** How a square of 20 px at (100, 60) is used whose pixels come from where `sourceOf` says. */
function usesOf(sourceOf: Sources['sourceOf']) {
  const box = { x: 100, y: 60, width: 20, height: 20 };
  const pixelsOf = new Uint8Array(SIZE.width * SIZE.height);
  for (let y = box.y; y < box.y + box.height; y++) {
    pixelsOf.fill(1, y * SIZE.width + box.x, y * SIZE.width + box.x + box.width);
  }
  const uses = noUses(SIZE);
  const region = { x: 0, y: 0, ...SIZE };
  countUses(uses, { region, pixelsOf, box } as Part, { sourceOf } as Sources);
  return uses;
}

/** The areas used where all pixels come from (dx, dy) away. */
const usedBy = (dx: number, dy: number) => usedAreas(usesOf((x, y) => ({ x: x + dx, y: y + dy })));

test('a region has at most 160 squares along, of 4 px at least, and nothing is used at first', () => {
  expect(noUses(SIZE)).toMatchObject({ side: 4, width: 100, height: 50 });
  expect(noUses({ width: 6000, height: 4000 })).toMatchObject({ side: 38, width: 158, height: 106 });
  expect(usedAreas(noUses(SIZE)).cells.some(Boolean)).toBe(false);
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

test('what is copied once, each pixel from a place of its own, repeats nothing; the same five times over mostly does', () => {
  expect(repeatShare(usesOf((x, y) => ({ x: x + 40, y })))).toBe(0);
  const fiveTimes = repeatShare(usesOf((x, y) => ({ x: 20 + (x % 4), y })));
  const twice = repeatShare(usesOf((x, y) => ({ x: x < 110 ? x : x - 10, y: y + 40 })));
  expect(fiveTimes).toBeGreaterThan(0.6);
  expect(twice).toBeGreaterThan(0);
  expect(twice).toBeLessThan(0.3);
  expect(repeatShare(noUses(SIZE))).toBe(0);
});
