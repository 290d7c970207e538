import { FILL_STRATEGIES, onPlaneOf, PLANES_ELSE_LARGE_PIECES, varied } from './strategy.ts';

test('a strategy stays itself for the first round and wanders, in bounds, in later ones', () => {
  for (const strategy of FILL_STRATEGIES) {
    expect(varied(strategy, 1)).toEqual(strategy);
    const later = [2, 3, 4].map((seed) => varied(strategy, seed));
    expect(new Set(later.map(({ coarseness }) => coarseness)).size).toBe(3);
    for (const { coarseness, start, planes } of later) {
      expect(Math.abs(Math.log2(coarseness / strategy.coarseness))).toBeLessThanOrEqual(0.6);
      expect({ start, planes }).toEqual({ start: strategy.start, planes: strategy.planes });
    }
  }
});

test('where one take must do, planes are rebuilt as along planes, in later rounds at the scale these have wandered to', () => {
  const { coarseness, textureWeight, spread, planeRowWeight } = FILL_STRATEGIES.find(
    ({ name }) => name === 'along planes',
  )!;
  expect(onPlaneOf(PLANES_ELSE_LARGE_PIECES)).toMatchObject({ textureWeight, planeRowWeight });
  expect(onPlaneOf(PLANES_ELSE_LARGE_PIECES).coarseness).toBeCloseTo(coarseness);
  expect(onPlaneOf(PLANES_ELSE_LARGE_PIECES).spread).toBeCloseTo(spread);
  const later = varied(PLANES_ELSE_LARGE_PIECES, 2);
  expect(onPlaneOf(later).coarseness / coarseness).toBeCloseTo(later.coarseness / PLANES_ELSE_LARGE_PIECES.coarseness);
});
