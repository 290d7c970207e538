import { cheapestLabels } from './cheapestLabels.ts';

/** Costs by node of the labels 0, 1 and 2. */
const NODES = [
  [9, 0, 9],
  [0, 5, 9],
  [0, 5, 9],
  [0, 5, 9],
  [9, 0, 9],
  [9, 1, 0],
];
const costs = Float32Array.from(NODES.flat());

test('labels change where that costs less than staying', () => {
  // Two changes for fifteen that are saved; one that is saved is not worth two.
  expect([...cheapestLabels(costs, 3, 4, 0, 1)]).toEqual([1, 0, 0, 0, 1, 1]);
  expect([...cheapestLabels(costs, 3, 0.25, 0, 1)]).toEqual([1, 0, 0, 0, 1, 2]);
});

test('where changes cost too much no label changes, whatever node the chain begins at', () => {
  expect([...cheapestLabels(costs, 3, 20, 0, 1)]).toEqual([1, 1, 1, 1, 1, 1]);
  for (let start = 0; start < NODES.length; start++) {
    expect(cheapestLabels(costs, 3, 4, start, 1)[start]).toBe(1);
  }
});

test('from node to node labels change by one at most', () => {
  const steep = Float32Array.of(0, 9, 9, 9, 9, 0, 9, 9, 9);
  expect(cheapestLabels(steep, 3, 0, 0, 0)[1]).toBeLessThan(2);
});
