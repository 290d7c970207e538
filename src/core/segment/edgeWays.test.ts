import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import { findEdgeWays, strongestNear, wayTo } from './edgeWays.ts';

const SIDE = 120;
const MIDDLE = 60;
const RADIUS = 40;

/** A grey disc on a lively ground that is hardly darker. */
const grain = noise(5, 9);
const disc = pictureOf(SIDE, SIDE, (x, y) => {
  const inside = Math.hypot(x + 0.5 - MIDDLE, y + 0.5 - MIDDLE) < RADIUS;
  const value = (inside ? 150 : 100) + grain();
  return [value, value, value];
});
const onCircle = (degrees: number): { x: number; y: number } => {
  const angle = (degrees * Math.PI) / 180;
  return {
    x: Math.round(MIDDLE + RADIUS * Math.cos(angle) - 0.5),
    y: Math.round(MIDDLE + RADIUS * Math.sin(angle) - 0.5),
  };
};

test('between two points on the outline of a thing the way runs along it, not straight across', () => {
  const [from, to] = [onCircle(0), onCircle(120)];
  const way = wayTo(findEdgeWays(disc, from.x, from.y), to.x, to.y);
  expect(way.slice(0, 2)).toEqual([from.x, from.y]);
  expect(way.slice(-2)).toEqual([to.x, to.y]);
  for (let i = 0; i < way.length; i += 2) {
    const off = Math.hypot(way[i]! + 0.5 - MIDDLE, way[i + 1]! + 0.5 - MIDDLE) - RADIUS;
    expect(Math.abs(off)).toBeLessThan(2);
    if (i > 0) expect(Math.max(Math.abs(way[i]! - way[i - 2]!), Math.abs(way[i + 1]! - way[i - 1]!))).toBe(1);
  }
});

test('where there is no edge the way is the shortest', () => {
  const plain = pictureOf(SIDE, SIDE, () => [90, 120, 70]);
  const way = wayTo(findEdgeWays(plain, 10, 10), 60, 35);
  expect(way.length / 2).toBe(51);
});

test('a point beside an edge is drawn onto it, one outside comes to rest at the side', () => {
  const ways = findEdgeWays(disc, 5, 5);
  const near = strongestNear(ways, MIDDLE + RADIUS + 4, MIDDLE, 6);
  expect(Math.abs(Math.hypot(near.x + 0.5 - MIDDLE, near.y + 0.5 - MIDDLE) - RADIUS)).toBeLessThan(1.5);
  expect(wayTo(ways, -30, 500).slice(-2)).toEqual([0, SIDE - 1]);
});
