import { inBytes } from './inBytes.ts';

test('sizes are told in the unit that reads best', () => {
  expect([0, 999, 1000, 775_400, 12_345_678, 11e9].map(inBytes)).toEqual([
    '0 bytes',
    '999 bytes',
    '1.0 kB',
    '775 kB',
    '12 MB',
    '11 GB',
  ]);
});
