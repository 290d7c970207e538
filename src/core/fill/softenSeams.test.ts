import { kernels } from '../../../tests/support/kernels.ts';
import { pictureOf } from '../../../tests/support/pictures.ts';
import type { CopiedPart } from './copiedPart.ts';
import { softenSeams } from './softenSeams.ts';

const [SIZE, SEAM, MARGIN] = [40, 20, 4];

type Tone = (x: number) => number;

/** A row of a part, its left and right half copied apart, before and after its seams are softened; pixels on them. */
function rowOf(
  tone: Tone,
  groupAt: Tone = (x) => (x < SEAM ? 1 : 2),
  y = SIZE / 2,
): { before: number[]; after: number[]; onSeams: number } {
  const image = pictureOf(SIZE, SIZE, (x) => [tone(x), tone(x), tone(x)]);
  const inside = (at: number): boolean => at >= MARGIN && at < SIZE - MARGIN;
  const part = new Uint8Array(SIZE * SIZE).map((_, p) => (inside(p % SIZE) && inside(Math.floor(p / SIZE)) ? 1 : 0));
  const groups = new Float64Array(SIZE * SIZE).map((_, p) => groupAt(p % SIZE));
  const box = { x: 0, y: 0, width: SIZE, height: SIZE };
  const made = image.data.slice();
  const onSeams = softenSeams({ image, part, box, groups } as unknown as CopiedPart, made, kernels);
  const row = (data: Uint8ClampedArray): number[] => Array.from({ length: SIZE }, (_, x) => data[4 * (y * SIZE + x)]!);
  return { before: row(image.data), after: row(made), onSeams };
}

test('where one thing ends and another begins, the edge is drawn over a few pixels, and nothing else changes', () => {
  const { before, after, onSeams } = rowOf((x) => (x < SEAM ? 40 : 200));
  // Shares of the five-tap binomial kernel that lie beyond the edge: 1/16, 5/16, 11/16, 15/16 of 160 levels.
  expect(after.slice(SEAM - 2, SEAM + 2)).toEqual([50, 90, 150, 190]);
  expect(after.slice(0, SEAM - 2)).toEqual(before.slice(0, SEAM - 2));
  expect(after.slice(SEAM + 2)).toEqual(before.slice(SEAM + 2));
  // A pixel to either side in every row of the part.
  expect(onSeams).toBe(2 * (SIZE - 2 * MARGIN));
});

test('so it is in every row but the outermost, whoever does which rows', () => {
  const rows = Array.from({ length: SIZE - 2 * MARGIN - 4 }, (_, k) => MARGIN + 2 + k);
  const after = rows.map((y) => rowOf((x) => (x < SEAM ? 40 : 200), undefined, y).after);
  for (const row of after) expect(row).toEqual(after[0]);
});

test('a joint that a seam runs along stays as sharp as it was', () => {
  const { before, after, onSeams } = rowOf((x) => (x === SEAM ? 30 : 150));
  expect(after).toEqual(before);
  expect(onSeams).toBe(0);
});

test('so does an edge within what is copied together', () => {
  const { before, after } = rowOf(
    (x) => (x < SEAM ? 40 : 200),
    () => 1,
  );
  expect(after).toEqual(before);
});

test('what lies outside the part is neither changed nor mixed in', () => {
  const { before, after } = rowOf(
    (x) => (x < MARGIN ? 255 : x < MARGIN + 1 ? 40 : 200),
    (x) => (x <= MARGIN ? 1 : 2),
  );
  expect(after.slice(0, MARGIN)).toEqual(before.slice(0, MARGIN));
  expect(after[MARGIN]).toBeLessThan(200);
});
