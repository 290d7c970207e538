import { FILL_STRATEGIES, varied } from './strategy.ts';

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
