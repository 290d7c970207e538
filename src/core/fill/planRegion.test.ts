import { planFillRegion, planNearRegion } from './planRegion.ts';

test('the region follows the mark, stays in the photo and takes far donors in', () => {
  const photo = { width: 1000, height: 800 };
  const mark = { x: 900, y: 300, width: 60, height: 200 };
  expect(planFillRegion(mark, photo)).toEqual({ x: 700, y: 100, width: 300, height: 600 });
  const region = planFillRegion(mark, photo, { x: 10, y: 20, width: 50, height: 50 });
  expect(region.x).toBe(10);
  expect(region.y).toBe(20);
});

test('a margin of the photo sees twice as far, a mark that only touches its edge does not', () => {
  const photo = { width: 2000, height: 400 };
  const seen = (box: Parameters<typeof planFillRegion>[0]) => planFillRegion(box, photo);
  expect(seen({ x: 1940, y: 0, width: 60, height: 400 })).toEqual({ x: 1140, y: 0, width: 860, height: 400 });
  expect(seen({ x: 1940, y: 150, width: 60, height: 250 })).toEqual({ x: 1690, y: 0, width: 310, height: 400 });
  const tall = { width: 400, height: 2000 };
  expect(planFillRegion({ x: 0, y: 0, width: 400, height: 50 }, tall)).toMatchObject({ y: 0, height: 850 });
  // A wire across the picture.
  expect(planFillRegion({ x: 0, y: 900, width: 400, height: 50 }, tall)).toMatchObject({ y: 500, height: 850 });
});

test('near is .3 of the longest side, 96 px at least', () => {
  const photo = { width: 2000, height: 1500 };
  expect(planNearRegion({ x: 600, y: 500, width: 500, height: 400 }, photo)).toEqual({
    x: 450,
    y: 350,
    width: 800,
    height: 700,
  });
  expect(planNearRegion({ x: 600, y: 20, width: 100, height: 40 }, photo)).toEqual({
    x: 504,
    y: 0,
    width: 292,
    height: 156,
  });
});
