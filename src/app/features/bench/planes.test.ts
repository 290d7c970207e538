import { isConvexQuad } from '../../../core/geometry/homography.ts';
import { EMPTY_DRAFT } from '../../../operations/draft.ts';
import { planeOverMark, planesInSight, withCorner } from './planes.ts';

const BOX = { x: 100, y: 200, width: 80, height: 60 };
const FOUND = planeOverMark(BOX);
const report = (planes: (typeof FOUND)[]) => ({
  planes,
  lines: [],
  used: { x: 0, y: 0, side: 4, width: 0, height: 0, cells: new Uint8Array(0) },
  growthAdvisedPx: 0,
  poorSurroundings: false,
});

test('planes set by hand are shown before those that some take found', () => {
  const reports = new Map([
    ['a', report([])],
    ['b', report([FOUND])],
  ]);
  expect(planesInSight(EMPTY_DRAFT, reports)).toEqual([FOUND]);
  expect(planesInSight({ ...EMPTY_DRAFT, planes: [] }, reports)).toEqual([]);
});

test('a new plane is a usable one that holds the mark', () => {
  expect(isConvexQuad(FOUND.corners)).toBe(true);
  const ys = FOUND.corners.map((corner) => corner.y);
  expect(Math.min(...ys)).toBeLessThan(BOX.y);
  expect(Math.max(...ys)).toBeGreaterThan(BOX.y + BOX.height);
});

test('moving a corner moves that one alone', () => {
  const moved = withCorner(FOUND, 2, { x: 1, y: 2 });
  expect(moved.corners[2]).toEqual({ x: 1, y: 2 });
  expect([0, 1, 3].map((k) => moved.corners[k])).toEqual([0, 1, 3].map((k) => FOUND.corners[k]));
});
