import { enclosed } from './enclosed.ts';

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
