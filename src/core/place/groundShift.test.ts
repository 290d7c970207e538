import { applyHomography, type Point } from '../geometry/homography.ts';
import { groundShift } from './groundShift.ts';

/** A camera 1.7 high, level, with its horizon at 300 and looking along x = 500, 900 px to the tangent. */
const seen = (across: number, away: number): Point => ({ x: 500 + (900 * across) / away, y: 300 + (900 * 1.7) / away });

test('a point of a shadow lands where a camera would see it after the move on the ground', () => {
  const [foot, landed] = [
    { across: -0.6, away: 4 },
    { across: 1.1, away: 5.5 },
  ];
  const [from, to] = [seen(foot.across, foot.away), seen(landed.across, landed.away)];
  for (const growth of [1, 1.3]) {
    // Drawn smaller by the distance, larger by the growth.
    const shift = groundShift(300, 500, from, to, (growth * foot.away) / landed.away)!;
    for (const [dx, dz] of [
      [0, 0],
      [0.8, 0.3],
      [-0.4, -1.2],
    ] as const) {
      const start = seen(foot.across + dx, foot.away + dz);
      const end = seen(landed.across + growth * dx, landed.away + growth * dz);
      const moved = applyHomography(shift, start.x, start.y);
      expect(moved.x).toBeCloseTo(end.x, 6);
      expect(moved.y).toBeCloseTo(end.y, 6);
    }
  }
});

test('what does not stand below the horizon, or would not, has no ground to lie on', () => {
  const below = { x: 400, y: 420 };
  expect(groundShift(420, 500, below, { x: 700, y: 500 }, 1)).toBeUndefined();
  expect(groundShift(300, 500, below, { x: 700, y: 250 }, 1)).toBeUndefined();
});
