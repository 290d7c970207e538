import { ARCS, minimumCut } from './minimumCut.ts';
import { createRandom } from './random.ts';

const [WIDTH, HEIGHT] = [4, 3];
const NODES = WIDTH * HEIGHT;

/** A grid whose arcs and ties to both terminals are whole numbers, some of them nothing. */
function randomGrid(seed: number) {
  const random = createRandom(seed);
  const neighbours = new Int32Array(ARCS * NODES).fill(-1);
  const capacities = new Float32Array(ARCS * NODES);
  const join = (a: number, b: number, arc: number): void => {
    neighbours[ARCS * a + arc] = b;
    neighbours[ARCS * b + (arc ^ 1)] = a;
    capacities[ARCS * a + arc] = Math.max(0, random.below(9) - 2);
    capacities[ARCS * b + (arc ^ 1)] = Math.max(0, random.below(9) - 2);
  };
  for (let node = 0; node < NODES; node++) {
    if ((node + 1) % WIDTH !== 0) join(node, node + 1, 0);
    if (node + WIDTH < NODES) join(node, node + WIDTH, 2);
  }
  const terminals = Float32Array.from({ length: NODES }, () => random.below(21) - 10);
  return { neighbours, capacities, terminals };
}

/** What a cut costs: ties to the other terminal, and arcs from the source's side to the sink's. */
function costOf(
  { neighbours, capacities, terminals }: ReturnType<typeof randomGrid>,
  isSource: (node: number) => boolean,
) {
  let cost = 0;
  for (let node = 0; node < NODES; node++) {
    if (!isSource(node)) {
      cost += Math.max(0, terminals[node]!);
      continue;
    }
    cost += Math.max(0, -terminals[node]!);
    for (let arc = ARCS * node; arc < ARCS * (node + 1); arc++) {
      if (neighbours[arc]! >= 0 && !isSource(neighbours[arc]!)) cost += capacities[arc]!;
    }
  }
  return cost;
}

test('no other cut costs less, and none that costs as little leaves fewer nodes to the source', () => {
  for (let seed = 1; seed <= 40; seed++) {
    const grid = randomGrid(seed);
    const all = Array.from({ length: 2 ** NODES }, (_, cut) => ({
      cost: costOf(grid, (node) => (cut & (1 << node)) !== 0),
      nodes: cut.toString(2).replaceAll('0', '').length,
    }));
    const least = Math.min(...all.map(({ cost }) => cost));
    const fewest = Math.min(...all.filter(({ cost }) => cost === least).map(({ nodes }) => nodes));
    const sides = minimumCut(grid.neighbours, grid.capacities.slice(), grid.terminals.slice());
    expect(costOf(grid, (node) => sides[node] === 1)).toBe(least);
    expect(sides.filter((side) => side === 1)).toHaveLength(fewest);
  }
});
