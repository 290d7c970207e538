import { inflate, intersect, isEmpty, unite } from './rect.ts';

test('the common part of overlapping and of separate rectangles', () => {
  expect(intersect({ x: 0, y: 0, width: 4, height: 4 }, { x: 2, y: 1, width: 5, height: 2 })).toEqual({
    x: 2,
    y: 1,
    width: 2,
    height: 2,
  });
  expect(isEmpty(intersect({ x: 0, y: 0, width: 2, height: 2 }, { x: 2, y: 0, width: 2, height: 2 }))).toBe(true);
});

test('an empty rectangle adds nothing to a union', () => {
  const box = { x: 3, y: 4, width: 2, height: 2 };
  expect(unite({ x: -9, y: 0, width: 0, height: 5 }, box)).toEqual(box);
  expect(unite(box, { x: 10, y: 4, width: 1, height: 1 })).toEqual({ x: 3, y: 4, width: 8, height: 2 });
  expect(inflate(box, 2)).toEqual({ x: 1, y: 2, width: 6, height: 6 });
});
