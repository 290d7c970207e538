import { hashOf, hexDigest, resultKey } from './contentHash.ts';

test('equal content gives equal keys, whatever the order of its fields; any other change gives another', async () => {
  const key = await resultKey('in', { a: 1, b: { c: [1, 2], d: undefined } });
  expect(await resultKey('in', { b: { c: [1, 2] }, a: 1 })).toBe(key);
  expect(await resultKey('in', { a: 1, b: { c: [2, 1] } })).not.toBe(key);
  expect(await resultKey('other', { a: 1, b: { c: [1, 2] } })).not.toBe(key);
  expect(key).toMatch(/^[0-9a-f]{64}$/);
});

test('where the browser hashes nothing, names are the same, and so are those made at once', async () => {
  const key = await resultKey('in', { a: 1 });
  const real = Object.getOwnPropertyDescriptor(globalThis, 'crypto')!;
  Object.defineProperty(globalThis, 'crypto', { value: { subtle: undefined }, configurable: true });
  try {
    expect(await resultKey('in', { a: 1 })).toBe(key);
  } finally {
    Object.defineProperty(globalThis, 'crypto', real);
  }
  expect(hashOf({ a: 1 })).toBe(await hexDigest(new TextEncoder().encode('{"a":1}')));
});
