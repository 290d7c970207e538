import { EMPTY_MARK, type Mark } from '../../../../operations/marks/markSchema.ts';
import { outlineMark } from '../../../../operations/marks/outlineMark.ts';
import { handRings } from './handRings.ts';

const PHOTO = { width: 400, height: 300 };
const triangle = (dx: number): Mark => ({
  ...EMPTY_MARK,
  shapes: [{ kind: 'lasso', combine: 'startOver', points: [50 + dx, 50, 150 + dx, 50, 50 + dx, 150] }],
});

/** Whether a point lies inside the rings, by the even-odd rule. */
function holds(rings: number[][], x: number, y: number): boolean {
  let inside = false;
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i += 2) {
      const [x0, y0] = [ring[i]!, ring[i + 1]!];
      const [x1, y1] = [ring[(i + 2) % ring.length]!, ring[(i + 3) % ring.length]!];
      if (y0 > y !== y1 > y && x < x0 + ((y - y0) / (y1 - y0)) * (x1 - x0)) inside = !inside;
    }
  }
  return inside;
}

test('a mark is held within its outline', () => {
  const mark = triangle(0);
  const rings = handRings(mark, { outline: outlineMark(mark, PHOTO), outlined: mark }, PHOTO);
  expect(holds(rings, 70, 70)).toBe(true);
  expect(holds(rings, 140, 140)).toBe(false);
});

test('one just drawn can be held at once, even where the one before was', () => {
  const before = triangle(200);
  const mark = triangle(0);
  for (const seen of [{}, { outline: outlineMark(before, PHOTO), outlined: before }]) {
    const rings = handRings(mark, seen, PHOTO);
    expect(holds(rings, 70, 70)).toBe(true);
    expect(holds(rings, 270, 70)).toBe(false);
  }
});
