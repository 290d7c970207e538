import { createRandom } from '../numeric/random.ts';
import { drain } from '../progress.ts';
import { findSeams, type SeamField } from './findSeams.ts';
import { seamShifts } from './seamShifts.ts';

const fieldOf = (width: number, height: number, luma: (x: number, y: number) => number): SeamField => ({
  width,
  height,
  luma: Float32Array.from({ length: width * height }, (_, i) => luma(i % width, Math.floor(i / width))),
  keep: new Float32Array(width * height),
});
const random = createRandom(9);
const NOISY = fieldOf(14, 9, () => random.below(256));

/** The textbook, word for word: whole rows rebuilt for every seam, every seam found by trying all ends. */
function textbook({ width, height, luma }: SeamField, count: number): number[][] {
  let rows = Array.from({ length: height }, (_, y) =>
    Array.from({ length: width }, (_, x) => ({ x, level: luma[y * width + x]!, y })),
  );
  const order = Array.from({ length: height }, () => new Array<number>(width).fill(0));
  for (let seam = 1; seam <= count; seam++) {
    const cost: number[][] = [];
    const from: number[][] = [];
    rows.forEach((row, y) => {
      cost.push([]);
      from.push([]);
      row.forEach((_, x) => {
        const at = (r: number, c: number): number => rows[r]![Math.max(0, Math.min(row.length - 1, c))]!.level;
        const straight = Math.abs(at(y, x + 1) - at(y, x - 1));
        const ways = y === 0 ? [[straight, x]] : [];
        if (y > 0) {
          ways.push([cost[y - 1]![x]! + straight, x]);
          if (x > 0) ways.push([cost[y - 1]![x - 1]! + straight + Math.abs(at(y - 1, x) - at(y, x - 1)), x - 1]);
          if (x < row.length - 1)
            ways.push([cost[y - 1]![x + 1]! + straight + Math.abs(at(y - 1, x) - at(y, x + 1)), x + 1]);
        }
        const best = ways.reduce((a, b) => (b[0]! < a[0]! ? b : a));
        cost[y]!.push(best[0]!);
        from[y]!.push(best[1]!);
      });
    });
    let x = cost.at(-1)!.indexOf(Math.min(...cost.at(-1)!));
    const path: number[] = [];
    for (let y = height - 1; y >= 0; y--) {
      path[y] = x;
      x = from[y]![x]!;
    }
    path.forEach((column, y) => (order[y]![rows[y]![column]!.x] = seam));
    rows = rows.map((row, y) => row.filter((_, column) => column !== path[y]));
  }
  return order;
}

test('seams are those of the plain textbook procedure', () => {
  expect(Array.from(drain(findSeams(NOISY, 6)))).toEqual(textbook(NOISY, 6).flat());
});

test('every seam takes one pixel of each row, next to that of the row above', () => {
  const order = drain(findSeams(NOISY, 4));
  for (let y = 0; y < 9; y++) {
    const row = Array.from(order.subarray(14 * y, 14 * (y + 1)));
    expect([1, 2, 3, 4].map((seam) => row.filter((value) => value === seam).length)).toEqual([1, 1, 1, 1]);
    if (y > 0)
      expect(Math.abs(row.indexOf(1) - order.subarray(14 * (y - 1), 14 * y).indexOf(1))).toBeLessThanOrEqual(1);
  }
});

test('seams go through the plain part, and never through what is kept', () => {
  const busy = fieldOf(40, 20, (x) => (x < 20 ? random.below(256) : 120));
  const plain = drain(findSeams(busy, 10));
  for (let i = 0; i < plain.length; i++) if (i % 40 < 20) expect(plain[i]).toBe(0);
  busy.keep.forEach((_, i) => (busy.keep[i] = i % 40 >= 20 ? 1e5 : 0));
  const kept = drain(findSeams(busy, 10));
  for (let i = 0; i < kept.length; i++) if (i % 40 >= 20) expect(kept[i]).toBe(0);
});

test('taken out or doubled, seams shift what lies right of them by their number; ends stay ends', () => {
  const order = new Uint16Array(10);
  order[4] = 1;
  const narrowed = seamShifts(order, 10, 1, 9, 0);
  expect(Array.from(narrowed.shifts)).toEqual([0, 0, 0, 0, 0, 1, 1, 1, 1, 1]);
  const widened = seamShifts(order, 10, 1, 11, 0);
  expect(Array.from(widened.shifts)).toEqual([0, 0, 0, 0, 0, -0.5, -1, -1, -1, -1, -1, -1]);
});

test('as many seams taken out as are put in lead back to the size, and evened shifts keep their order', () => {
  const order = drain(findSeams(NOISY, 5));
  for (const target of [9, 19]) {
    const { columns, rows, shifts } = seamShifts(order, 14, 9, target, 1.5);
    expect([columns, rows]).toEqual([target + 1, 9]);
    for (let y = 0; y < rows; y++) {
      const sources = Array.from(shifts.subarray(y * columns, (y + 1) * columns), (shift, x) => x + shift);
      expect([sources[0], sources.at(-1)]).toEqual([0, 14]);
      for (let x = 1; x < sources.length; x++) expect(sources[x]!).toBeGreaterThanOrEqual(sources[x - 1]!);
    }
  }
});
