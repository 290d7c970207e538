import fc from 'fast-check';
import { affineBounds, applyAffine, invertAffine, placementToAffine, type Placement } from './affine.ts';

const centre = { x: 10, y: 20 };
const inPlace: Placement = { dxPx: 0, dyPx: 0, scale: 1, turn: 0, mirror: 'none' };

test('scaling, turning and mirroring leave the centre where it is, shifted', () => {
  const m = placementToAffine({ dxPx: 5, dyPx: -3, scale: 2.5, turn: 1.1, mirror: 'horizontal' }, centre);
  const at = applyAffine(m, centre.x, centre.y);
  expect(at.x).toBeCloseTo(15, 9);
  expect(at.y).toBeCloseTo(17, 9);
});

test('a quarter turn is clockwise as seen on screen', () => {
  const at = applyAffine(placementToAffine({ ...inPlace, turn: Math.PI / 2 }, centre), 11, 20);
  expect(at.x).toBeCloseTo(10, 9);
  expect(at.y).toBeCloseTo(21, 9);
});

test('mirroring left and right keeps the height', () => {
  expect(applyAffine(placementToAffine({ ...inPlace, mirror: 'horizontal' }, centre), 7, 23)).toEqual({ x: 13, y: 23 });
});

test('the inverse leads back', () => {
  const number = fc.double({ min: -100, max: 100, noNaN: true });
  fc.assert(
    fc.property(number, number, fc.double({ min: 0.1, max: 5, noNaN: true }), (x, y, scale) => {
      const m = placementToAffine({ ...inPlace, dxPx: x, scale, turn: y / 50 }, centre);
      const there = applyAffine(m, x, y);
      const back = applyAffine(invertAffine(m), there.x, there.y);
      expect(back.x).toBeCloseTo(x, 6);
      expect(back.y).toBeCloseTo(y, 6);
    }),
  );
});

test('bounds of a shift by whole pixels are the shifted rectangle, not one larger', () => {
  const m = placementToAffine({ ...inPlace, dxPx: 7 }, { x: 3.3, y: 8.1 });
  expect(affineBounds(m, { x: 1, y: 2, width: 3, height: 4 })).toEqual({ x: 8, y: 2, width: 3, height: 4 });
});
