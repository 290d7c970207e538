import { kernels } from '../../../tests/support/kernels.ts';
import { levelOf } from '../../../tests/support/levels.ts';
import { chargeRepeats } from './repeats.ts';

beforeEach(() => kernels.reset());

const COST = 8000;
const OWN = 50;

/** What donors cost after targets took the donors that `donorOf` gives them, each at the same cost. */
function charged(donorOf: (donors: Int32Array, k: number) => number): {
  bias: Int32Array;
  donors: Int32Array;
  uses: number;
} {
  const level = levelOf(
    120,
    80,
    () => 120,
    (x, y) => (x - 60) ** 2 + (y - 40) ** 2 < 8 ** 2,
  );
  const size = level.width * level.height;
  const field = { donor: kernels.scratch.ints(size), cost: kernels.scratch.ints(size) };
  level.targets.forEach((target, k) => {
    field.donor[target] = donorOf(level.donors, k);
    field.cost[target] = COST;
  });
  const own = kernels.scratch.ints(size).fill(OWN);
  chargeRepeats(level, field, 0.5, own, kernels);
  return { bias: level.bias, donors: level.donors, uses: level.targets.length };
}

test('a donor that all want costs half the usual cost for each use beyond the first, on its patch’s average', () => {
  const { bias, donors, uses } = charged((list) => list[0]!);
  // The usual cost is known to a 4096th.
  const expected = OWN + 0.5 * COST * (uses / 49 - 1);
  expect(uses).toBeGreaterThan(100);
  expect(Math.abs(bias[donors[0]!]! / expected - 1)).toBeLessThan(0.001);
  // What is farther away than a patch was not used at all.
  expect(bias[donors[donors.length - 1]!]).toBe(OWN);
});

test('donors that are used once each cost what they cost by themselves', () => {
  const { bias, donors } = charged((list, k) => list[k]!);
  for (const donor of donors) expect(bias[donor]).toBe(OWN);
});
