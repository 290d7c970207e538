import { AS_TAKEN, photoToFrame, uprightCorners, uprightHomography } from './frameGeometry.ts';
import { enlargementFor, printPx, withEdges, withRatio, withRoom } from './frameRects.ts';
import { boundsOfPoints } from '../image/rect.ts';
import { applyHomography, invertHomography, type Point } from './homography.ts';
import { insetQuad } from './insetQuad.ts';
import { largestRectInside } from './rectInside.ts';
import { uprightFromLines, uprightFromMeetings } from './uprightFrom.ts';

const PHOTO = { width: 1200, height: 800 };
const DEGREE = Math.PI / 180;

test('the photo’s middle keeps its place and its size, however it is set upright', () => {
  const map = uprightHomography({ turn: 0.1, pitch: 0.3, yaw: -0.2, focal: 0.9 }, PHOTO);
  const at = (x: number, y: number): Point => applyHomography(map, x, y);
  const middle = at(600, 400);
  expect(middle.x).toBeCloseTo(600, 6);
  expect(middle.y).toBeCloseTo(400, 6);
  const [a, b, c] = [at(599.5, 399.5), at(600.5, 399.5), at(599.5, 400.5)];
  const area = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
  expect(area).toBeCloseTo(1, 3);
});

test('a turn alone turns clockwise about the middle', () => {
  const map = uprightHomography({ ...AS_TAKEN, turn: Math.PI / 2 }, PHOTO);
  const right = applyHomography(map, 700, 400);
  expect(right.x).toBeCloseTo(600, 6);
  expect(right.y).toBeCloseTo(500, 6);
});

test('the frame’s own place is taken off', () => {
  const map = photoToFrame({ ...AS_TAKEN, rect: { x: -50, y: 20, width: 10, height: 10 } }, PHOTO);
  const at = applyHomography(map, 0, 0);
  expect([at.x, at.y]).toEqual([50, -20]);
});

test('lines that a turned camera saw are set upright and level again, and the focal length is told', () => {
  const taken = { turn: 3 * DEGREE, pitch: 20 * DEGREE, yaw: -12 * DEGREE, focal: 0.8 };
  const toPhoto = invertHomography(uprightHomography(taken, PHOTO));
  const seen = (x0: number, y0: number, x1: number, y1: number) => ({
    from: applyHomography(toPhoto, x0, y0),
    to: applyHomography(toPhoto, x1, y1),
  });
  const lines = [
    seen(450, 200, 450, 600),
    seen(750, 200, 750, 600),
    seen(450, 300, 750, 300),
    seen(450, 500, 750, 500),
  ];
  const found = uprightFromLines(lines, PHOTO);
  expect(found.turn).toBeCloseTo(taken.turn, 6);
  expect(found.pitch).toBeCloseTo(taken.pitch, 6);
  expect(found.yaw).toBeCloseTo(taken.yaw, 6);
  expect(found.focal).toBeCloseTo(taken.focal, 6);
});

test('one line levels, whichever it is nearer to', () => {
  const level = uprightFromLines([{ from: { x: 100, y: 100 }, to: { x: 500, y: 120 } }], PHOTO);
  expect(level).toEqual({ ...AS_TAKEN, turn: -Math.atan(20 / 400) });
  const upright = uprightFromLines([{ from: { x: 100, y: 100 }, to: { x: 80, y: 500 } }], PHOTO);
  expect(upright.turn).toBeCloseTo(-Math.atan(20 / 400), 9);
  expect(uprightFromLines([], PHOTO)).toEqual(AS_TAKEN);
  expect(uprightFromMeetings(undefined, undefined)).toEqual(AS_TAKEN);
});

test('the largest rectangle inside a turned photo touches its sides and no more', () => {
  const corners = uprightCorners({ ...AS_TAKEN, turn: 10 * DEGREE }, PHOTO);
  const rect = largestRectInside(corners, 1.5)!;
  // For a rectangle w x h of one ratio, turned by t, the largest of the same ratio is h / (w/h sin t + cos t) high.
  const height = 800 / (1.5 * Math.sin(10 * DEGREE) + Math.cos(10 * DEGREE));
  expect(Math.abs(rect.height - height)).toBeLessThan(2);
  expect(Math.abs(rect.width / rect.height - 1.5)).toBeLessThan(0.01);
  expect(Math.abs(rect.x + rect.width / 2 - 600)).toBeLessThan(1.5);
});

test('where a side leaves room to move, the rectangle lies in the middle', () => {
  const corners = uprightCorners(AS_TAKEN, PHOTO);
  expect(largestRectInside(corners, 1)).toEqual({ x: 200, y: 0, width: 800, height: 800 });
  expect(largestRectInside(corners, 1.5)).toEqual({ x: 0, y: 0, width: 1200, height: 800 });
});

test('sides of a quadrilateral move by themselves', () => {
  const square = [
    { x: 0, y: 0 },
    { x: 10, y: 0 },
    { x: 10, y: 10 },
    { x: 0, y: 10 },
  ] as const;
  expect(insetQuad(square, [1, 2, -3, 0])).toEqual([
    { x: 0, y: 1 },
    { x: 8, y: 1 },
    { x: 8, y: 13 },
    { x: 0, y: 13 },
  ]);
});

test('ratios are reached by widening or by cutting, about what is to keep its place', () => {
  const rect = { x: 0, y: 0, width: 1200, height: 800 };
  expect(withRatio(rect, 1.25, 'widen')).toEqual({ x: 0, y: -80, width: 1200, height: 960 });
  expect(withRatio(rect, 1.25, 'cut')).toEqual({ x: 100, y: 0, width: 1000, height: 800 });
  expect(withRatio(rect, 2, 'widen', { x: 0, y: 0.5 })).toEqual({ x: 0, y: 0, width: 1600, height: 800 });
  expect(withRatio(rect, 2, 'widen', { x: 1, y: 0.5 }).x).toBe(-400);
  expect(withEdges(rect, { left: 10, top: -20, right: 30, bottom: 0 })).toEqual({
    x: -10,
    y: 20,
    width: 1240,
    height: 780,
  });
});

test('free room widens one side, and puts a subject on the third away from it', () => {
  const rect = { x: 0, y: 0, width: 600, height: 400 };
  expect(withRoom(rect, 'left', 0.25)).toEqual({ x: -200, y: 0, width: 800, height: 400 });
  expect(withRoom(rect, 'bottom', 0.2)).toEqual({ x: 0, y: 0, width: 600, height: 500 });
  expect(withRoom(rect, 'left', 0.25, { x: 300, y: 10 })).toEqual({ x: -233, y: 0, width: 800, height: 400 });
  expect(withRoom(rect, 'right', 0.25, { x: 300, y: 10 }).x).toBe(33);
});

test('print sizes and what is short of them', () => {
  expect(printPx(8, 'inch', 300)).toBe(2400);
  expect(printPx(254, 'mm', 300)).toBe(3000);
  expect(enlargementFor({ width: 1600, height: 2000 }, { width: 2400, height: 3000 })).toBe(1.5);
  expect(
    boundsOfPoints([
      { x: 0.5, y: -1 },
      { x: 3, y: 2.2 },
    ]),
  ).toEqual({ x: 0, y: -1, width: 3, height: 4 });
});
