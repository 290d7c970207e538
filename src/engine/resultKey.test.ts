import { resultKey } from './resultKey.ts';

test('equal content gives equal keys, whatever the order of its fields; any other change gives another', async () => {
  const key = await resultKey('in', { a: 1, b: { c: [1, 2], d: undefined } });
  expect(await resultKey('in', { b: { c: [1, 2] }, a: 1 })).toBe(key);
  expect(await resultKey('in', { a: 1, b: { c: [2, 1] } })).not.toBe(key);
  expect(await resultKey('other', { a: 1, b: { c: [1, 2] } })).not.toBe(key);
  expect(key).toMatch(/^[0-9a-f]{64}$/);
});
