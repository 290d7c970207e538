import { deliveredSizes } from './deliveredSizes.ts';

test('exact sizes are offered where the form fits, smaller ones always, larger ones of no fixed size never', () => {
  expect(deliveredSizes({ width: 2250, height: 4000 })).toEqual([
    { width: 2250, height: 4000 },
    { width: 1080, height: 1920 },
    { width: 2160, height: 3840 },
    { width: 1440, height: 2560 },
    { width: 900, height: 1600 },
    { width: 608, height: 1080 },
  ]);
  expect(deliveredSizes({ width: 400, height: 260 })).toEqual([{ width: 400, height: 260 }]);
  expect(deliveredSizes({ width: 1080, height: 1080 })).toEqual([{ width: 1080, height: 1080 }]);
});
