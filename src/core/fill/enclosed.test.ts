import { maskOf } from '../../../tests/support/pictures.ts';
import { enclosed, liesPastEdge } from './enclosed.ts';

test('what has known pixels on both sides is enclosed, what runs to an edge or a corner is not', () => {
  const rows = ['......##', '..##..##', '..##....', '##......'];
  const hole = Uint8Array.from(rows.join(''), (pixel) => (pixel === '#' ? 1 : 0));
  const found = enclosed(hole, 8, 4);
  const told = rows.map((row, y) => [...row].map((p, x) => (p === '#' ? found[8 * y + x] : '.')).join(''));
  expect(told).toEqual(['......00', '..11..00', '..11....', '00......']);
});

test('a bay that the edge closes on one side only is enclosed by the two others', () => {
  // Known above and below; the picture ends at the right.
  expect(Array.from(enclosed(Uint8Array.from([0, 0, 0, 0, 1, 1, 0, 0, 0]), 3, 3))).toEqual([0, 0, 0, 0, 1, 1, 0, 0, 0]);
});

test('a margin lies past the edge, also where two sides are missing; a hole that only touches the edge does not', () => {
  const size = { width: 900, height: 600 };
  const lies = (isHole: (x: number, y: number) => boolean): boolean =>
    liesPastEdge(maskOf(size.width, size.height, isHole).data, size);
  expect(lies((x) => x > 700)).toBe(true);
  expect(lies((x, y) => x > 700 || y > 500)).toBe(true);
  expect(lies((x, y) => x > 300 && x < 600 && y > 200 && y < 400)).toBe(false);
  expect(lies((x, y) => x > 300 && x < 600 && y > 400)).toBe(false);
  // A gap in the middle and a strip at the edge: the larger of both tells.
  expect(lies((x, y) => x > 870 || (x > 200 && x < 600 && y > 200 && y < 400))).toBe(false);
});
