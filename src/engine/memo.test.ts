import { createMemo } from './memo.ts';

test('forgets what was used longest ago once the budget is exceeded', () => {
  const memo = createMemo(100);
  memo.set('a', 1, 40);
  memo.set('b', 2, 40);
  expect(memo.get('a')).toBe(1);
  memo.set('c', 3, 40);
  expect([memo.get('a'), memo.get('b'), memo.get('c')]).toEqual([1, undefined, 3]);
});

test('keeps the newest value even if it alone exceeds the budget, and counts a replaced one once', () => {
  const memo = createMemo(100);
  memo.set('a', 1, 90);
  memo.set('a', 2, 90);
  memo.set('b', 3, 10);
  expect(memo.get('a')).toBe(2);
  memo.set('huge', 4, 500);
  expect([memo.get('huge'), memo.get('a')]).toEqual([4, undefined]);
});
