import { maskOf, noise, pictureOf } from '../tests/support/pictures.ts';
import { fidelity } from './fidelity.ts';

const grain = noise(1, 12);
const TRUTH = pictureOf(80, 80, (_, y) => {
  const value = (y % 10 < 2 ? 60 : 160) + grain();
  return [value, value, value];
});
const MARK = maskOf(80, 80, (x, y) => x > 20 && x < 60 && y > 20 && y < 60);
const change = (colour: (x: number, y: number, truth: number) => number) =>
  pictureOf(80, 80, (x, y) => {
    const truth = TRUTH.data[4 * (y * 80 + x)]!;
    const value = MARK.data[y * 80 + x] ? colour(x, y, truth) : truth;
    return [value, value, value];
  });

test('the truth itself is without error', () => {
  expect(fidelity(TRUTH, TRUTH, MARK)).toEqual({ tone: 0, texture: 0, lines: 0, seam: 0 });
});

test('each measure tells its own fault', () => {
  const darker = fidelity(
    change((_x, _y, truth) => truth - 20),
    TRUTH,
    MARK,
  );
  expect(darker.tone).toBeGreaterThan(12);
  expect(darker.texture).toBeLessThan(0.2);
  expect(darker.seam).toBeGreaterThan(0.1);
  const flat = fidelity(
    change(() => 140),
    TRUTH,
    MARK,
  );
  expect(flat.texture).toBeGreaterThan(2);
  expect(flat.lines).toBeGreaterThan(0.7);
  const turned = fidelity(
    change((x) => (x % 10 < 2 ? 60 : 160)),
    TRUTH,
    MARK,
  );
  expect(turned.lines).toBeGreaterThan(0.5);
});
