import { pictureOf } from '../../tests/support/pictures.ts';
import { clear } from './kinds/clear/index.ts';
import { distinctTakes, planTakes } from './takes.ts';

const rect = { x: 0, y: 0, width: 8, height: 8 };
const take = (strategy: string, rank: number, value: number) => ({
  spec: { strategy, seed: 1 },
  result: { patches: [{ rect, image: pictureOf(8, 8, () => [value, value, value]) }], rank, timings: {} },
});
const names = (takes: ReturnType<typeof take>[]) => distinctTakes(takes).map(({ spec }) => spec.strategy);

test('best first; of two that look the same only the better stays', () => {
  const takes = [take('c', 3, 90), take('a', 1, 10), take('d', 4, 130), take('a again', 2, 10.4), take('b', 2.5, 50)];
  expect(names(takes)).toEqual(['a', 'b', 'c', 'd']);
});

test('where all differ but slightly, three are still offered; copies are not', () => {
  const takes = [take('a', 1, 10), take('b', 2, 11), take('c', 3, 12), take('d', 4, 13), take('copy', 5, 10)];
  expect(names(takes)).toEqual(['a', 'b', 'c']);
  expect(names([take('a', 1, 10), take('copy', 2, 10)])).toEqual(['a']);
});

test('another round uses every strategy again, from other seeds', () => {
  const [first, second] = [planTakes(clear, 0), planTakes(clear, 1)];
  expect(first.map(({ strategy }) => strategy)).toEqual(second.map(({ strategy }) => strategy));
  expect(first.every(({ seed }, i) => seed !== second[i]!.seed)).toBe(true);
  expect(first.length).toBeGreaterThanOrEqual(3);
  expect(first.length).toBeLessThanOrEqual(6);
});
