import { applyHomography } from '../geometry/homography.ts';
import { perspectiveWay, straightWay } from './pullWays.ts';

test('along straight ways a place is carried on by px, on the way it lies on', () => {
  const way = straightWay({ dx: 30, dy: 40 });
  const on = applyHomography(way.carry(10), 100, 50);
  expect(on).toEqual({ x: 106, y: 58 });
  expect(way.along(on.x, on.y) - way.along(100, 50)).toBeCloseTo(10);
  expect(way.across(on.x, on.y)).toBeCloseTo(way.across(100, 50));
});

describe('in perspective, towards a point on a level horizon', () => {
  const meeting = { x: 400, y: 100 };
  const line = [0, 1, -100] as const;
  const rear = { x: 300, y: 500 };
  const towards = perspectiveWay({ meeting, line }, rear, true, 1000);

  test('places stay on their ways and get as far along as they are carried', () => {
    for (const [x, y] of [
      [300, 500],
      [620, 340],
      [410, 260],
    ] as const) {
      const on = applyHomography(towards.carry(80), x, y);
      expect(towards.along(on.x, on.y) - towards.along(x, y)).toBeCloseTo(80);
      expect(towards.across(on.x, on.y)).toBeCloseTo(towards.across(x, y));
      expect(on.y).toBeLessThan(y);
      expect(on.y).toBeGreaterThan(100);
    }
  });

  test('at the rear a px is a px, farther on the same length is drawn smaller', () => {
    const drawn = [0, 200, 400].map((from) => {
      const [a, b] = [from, from + 1].map((by) => applyHomography(towards.carry(by), rear.x, rear.y));
      return Math.hypot(a!.x - b!.x, a!.y - b!.y);
    });
    expect(drawn[0]).toBeCloseTo(1, 1);
    expect(drawn[1]).toBeLessThan(drawn[0]!);
    expect(drawn[2]).toBeLessThan(drawn[1]!);
  });

  test('the horizon and the meeting point stay where they are', () => {
    for (const x of [0, 400, 900]) expect(applyHomography(towards.carry(50), x, 100).y).toBeCloseTo(100);
    const { x, y } = applyHomography(towards.carry(50), 400, 100);
    expect([x, y]).toEqual([expect.closeTo(400), expect.closeTo(100)]);
  });

  test('away from it things become larger', () => {
    const away = perspectiveWay({ meeting, line }, { x: 380, y: 180 }, false, 1000);
    const [a, b] = [applyHomography(away.carry(40), 380, 180), applyHomography(away.carry(40), 390, 180)];
    expect(a.y).toBeGreaterThan(180);
    expect(b.x - a.x).toBeGreaterThan(10);
  });

  test('what lies beyond the horizon is on no way', () => {
    expect(towards.along(300, 50)).toBe(Infinity);
  });
});
