import { kernels } from '../../../tests/support/kernels.ts';
import { levelOf } from '../../../tests/support/levels.ts';
import { voteHole } from './vote.ts';

beforeEach(() => kernels.reset());

/** A hole of one pixel at (x, y), 100 in the left half of the picture and 200 in the right. */
const [X, Y] = [60, 40];
const onePixel = () =>
  levelOf(
    120,
    80,
    (x) => (x < 60 ? 100 : 200),
    (x, y) => x === X && y === Y,
  );

/** What the pixel becomes where patches left of it are copied from the left, at a cost, and the others from the right. */
function votedWith(costLeft: number, costRight: number, narrowing = 1): number {
  const level = onePixel();
  const size = level.width * level.height;
  const field = { donor: kernels.scratch.ints(size), cost: kernels.scratch.ints(size) };
  for (const target of level.targets) {
    const isLeft = target % level.width < X;
    field.donor[target] = target + (isLeft ? -30 : 30);
    field.cost[target] = isLeft ? costLeft : costRight;
  }
  voteHole(level, field, narrowing, kernels);
  return level.features[4 * (Y * level.width + X)]!;
}

test('patches that fit equally well count alike, but for the one whose centre lies in the hole', () => {
  // Three of seven columns bring 100; of the other 28 patches one has its centre one px deep.
  const right = 27 + 1 / 1.15;
  expect(votedWith(0, 0)).toBe(Math.round((21 * 100 + right * 200) / (21 + right)));
});

test('those at the usual cost, that of three in four, count e^-1/2 of those that fit exactly', () => {
  const [left, right, less] = [21, 27 + 1 / 1.15, Math.exp(-0.5)];
  const mean = (ofLeft: number, ofRight: number): number =>
    Math.round((ofLeft * 100 + ofRight * 200) / (ofLeft + ofRight));
  expect(votedWith(0, 1_000_000)).toBe(mean(left, less * right));
  expect(votedWith(1_000_000, 0)).toBe(mean(less * left, right));
});

test('the narrower the weights, the more the better ones count', () => {
  expect(votedWith(1000, 3000, 0.25)).toBeLessThan(votedWith(1000, 3000) - 5);
  expect(votedWith(1000, 3000, 0.05)).toBe(100);
});
