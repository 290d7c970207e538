import { describePlacement } from './describePlacement.ts';

const inPlace = { dxPx: 0, dyPx: 0, scale: 1, turn: 0, mirror: 'none' as const };

test('a place is told as a person would', () => {
  expect(describePlacement({ ...inPlace, dxPx: 560, dyPx: -4 })).toBe('560 px right, 4 px up');
  expect(describePlacement({ ...inPlace, dxPx: -3, scale: 0.8, turn: Math.PI / 6 })).toBe(
    '3 px left, at 80 %, turned by 30 degrees',
  );
  expect(describePlacement({ ...inPlace, dyPx: 9, mirror: 'horizontal' })).toBe('9 px down, mirrored');
  expect(describePlacement(inPlace)).toBe('in place');
});
