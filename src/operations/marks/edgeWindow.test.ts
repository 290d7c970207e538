import { pictureOf } from '../../../tests/support/pictures.ts';
import { findEdgeWays } from '../../core/segment/edgeWays.ts';
import { edgePointNear, edgeWayTo, type EdgeWindow } from './edgeWindow.ts';

/** An upright edge at the photo's x = 1040, in a window of 40 x 30 px at a quarter of its size that begins at (1000, 500). */
const window: EdgeWindow = {
  ways: findEdgeWays(
    pictureOf(40, 30, (x) => (x < 10 ? [30, 30, 30] : [220, 220, 220])),
    10,
    2,
  ),
  x: 1000,
  y: 500,
  step: 4,
};

test('the way is told in photo points, along the edge', () => {
  const way = edgeWayTo(window, { x: 1041, y: 610 });
  expect(way[0]).toEqual({ x: 1042, y: 510 });
  expect(way.at(-1)!.y).toBe(610);
  for (const { x } of way) expect(Math.abs(x - 1040)).toBeLessThanOrEqual(4);
});

test('past the window it goes straight on to the point', () => {
  const beyond = { x: 1500, y: 560 };
  const way = edgeWayTo(window, beyond);
  expect(way.at(-1)).toEqual(beyond);
  expect(way.at(-2)!.x).toBe(1158);
  expect(edgePointNear(window, beyond, 16)).toEqual(beyond);
});

test('a point near the edge is drawn onto it; one too far from it stays about where it is', () => {
  expect(Math.abs(edgePointNear(window, { x: 1052, y: 560 }, 16).x - 1040)).toBeLessThanOrEqual(4);
  const far = edgePointNear(window, { x: 1121, y: 561 }, 16);
  expect(Math.hypot(far.x - 1121, far.y - 561)).toBeLessThan(4);
});
