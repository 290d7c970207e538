import { carryPoint } from './carryPoint.ts';
import { invertHomography } from './homography.ts';
import type { Warp } from './warp.ts';

/** 100 px wide, of a picture 80 px wide: the middle is stretched, the ends keep their shape. */
const STRETCHED: Warp = {
  kind: 'displaced',
  axis: 'x',
  width: 100,
  height: 50,
  columns: 5,
  rows: 2,
  shifts: Float32Array.from([0, 0, -10, -20, -20, 0, 0, -10, -20, -20]),
};
const TILTED: Warp = { kind: 'projective', toTarget: [1, 0.1, 5, 0, 1.2, -3, 0.0004, 0, 1] };

test('points go forth where the picture is carried, and come back to where they were', () => {
  const { to } = carryPoint([STRETCHED]);
  expect(to({ x: 10, y: 20 }).x).toBeCloseTo(10, 6);
  expect(to({ x: 40, y: 20 }).x).toBeCloseTo(50, 6);
  expect(to({ x: 70, y: 20 })).toEqual({ x: expect.closeTo(90, 6), y: 20 });
});

test.each([[[STRETCHED]], [[TILTED]], [[STRETCHED, TILTED]], [[TILTED, STRETCHED]]])(
  'the way back undoes the way forth through a chain of warps',
  (warps: Warp[]) => {
    const { to, back } = carryPoint(warps);
    for (const point of [
      { x: 12.5, y: 7 },
      { x: 55, y: 41.25 },
      { x: -6, y: 60 },
    ]) {
      const there = back(to(point));
      expect(there.x).toBeCloseTo(point.x, 4);
      expect(there.y).toBeCloseTo(point.y, 4);
    }
  },
);

test('undone warps leave a point where it is', () => {
  const undone: Warp = { kind: 'projective', toTarget: invertHomography(TILTED.toTarget) };
  const at = carryPoint([TILTED, undone]).to({ x: 31, y: 17 });
  expect(at.x).toBeCloseTo(31, 6);
  expect(at.y).toBeCloseTo(17, 6);
});
