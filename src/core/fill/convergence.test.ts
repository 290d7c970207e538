import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { convergences } from './convergence.ts';

/** Boards that meet in (200, 40): dark joints fan out from there. */
const grain = noise(3, 4);
const boards = pictureOf(400, 300, (x, y) => {
  const slope = ((x - 200) / Math.max(1, y - 40)) * 6;
  const value = (y < 60 ? 200 : slope - Math.floor(slope) < 0.16 ? 50 : 165) + grain();
  return [value, value, value];
});
const mark = maskOf(400, 300, (x, y) => x > 60 && x < 340 && y > 120 && y < 280);
const upwards = { dx: 0, dy: -60 };

test('edges of a thing that meet ahead tell its perspective', () => {
  const found = convergences(boards, mark, upwards);
  const nearest = Math.min(...found.map(({ meeting: { x, y } }) => Math.hypot(x - 200, y - 40)));
  expect(nearest).toBeLessThan(8);
});

test('a pull across them has no such perspective', () => {
  for (const { meeting } of convergences(boards, mark, { dx: 60, dy: 0 })) {
    expect(Math.abs(meeting.x - 200)).toBeGreaterThan(300);
  }
});

test('planes that are given are the only ones considered, by the corners of a rectangle on them', () => {
  const corners: PlaneCorners['corners'] = [
    { x: 150, y: 100 },
    { x: 250, y: 100 },
    { x: 350, y: 250 },
    { x: 50, y: 250 },
  ];
  const [plane, ...others] = convergences(boards, mark, upwards, [{ corners }]);
  expect(others).toEqual([]);
  // Both sides run towards (200, 25), the two other edges never meet: the horizon is level.
  expect(plane!.meeting.x).toBeCloseTo(200);
  expect(plane!.meeting.y).toBeCloseTo(25);
  const [a, b, c] = plane!.line;
  expect(Math.abs(a * 200 + b * 25 + c)).toBeLessThan(1e-6);
  expect(Math.hypot(a, b)).toBeCloseTo(1);
  expect(Math.abs(b)).toBeCloseTo(1);
  expect(convergences(boards, mark, upwards, [])).toEqual([]);
});
