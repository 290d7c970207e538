import { createRandom } from '../numeric/random.ts';
import { randomCorrespondence, refineCorrespondence, refreshCosts, searchRound } from './correspondence.ts';
import { indexLevel } from './level.ts';
import { peelHole } from './onionPeel.ts';
import { voteHole } from './vote.ts';

/** Vertical stripes of a period of 8 px with a square hole. */
function striped(width: number, height: number) {
  const n = width * height;
  const features = new Uint8Array(4 * n);
  const hole = new Uint8Array(n);
  for (let i = 0; i < n; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    hole[i] = x >= width / 2 - 8 && x < width / 2 + 8 && y >= height / 2 - 8 && y < height / 2 + 8 ? 1 : 0;
    features.set(hole[i] ? [0, 0, 0, 0] : [x % 8 < 4 ? 60 : 190, 128, 128, 30], 4 * i);
  }
  return indexLevel({ width, height, features, hole, usable: hole.map((h) => 1 - h) });
}

const sum = (values: Int32Array, at: Int32Array): number => at.reduce((total, i) => total + values[i]!, 0);

test('each round of the search only improves, and every donor stays a legal one', () => {
  const level = striped(80, 64);
  const random = createRandom(3);
  const field = randomCorrespondence(level, random);
  let before = sum(field.cost, level.targets);
  for (let round = 0; round < 6; round++) {
    searchRound(level, field, 40, random);
    const after = sum(field.cost, level.targets);
    expect(after).toBeLessThanOrEqual(before);
    before = after;
  }
  expect(level.targets.every((target) => level.isDonor[field.donor[target]!] === 1)).toBe(true);
});

test('peeled and voted, stripes run through the hole in step', () => {
  const level = striped(80, 64);
  const field = peelHole(level);
  voteHole(level, field, 1);
  for (let i = 0; i < level.hole.length; i++) {
    if (level.hole[i]) expect(level.features[4 * i]).toBe((i % 80) % 8 < 4 ? 60 : 190);
  }
});

test('refined to twice the size, a field keeps its offsets: stripes stay in step without any search', () => {
  const coarse = striped(40, 32);
  const field = peelHole(coarse);
  const fine = striped(80, 64);
  const finer = refineCorrespondence(coarse, field, fine, createRandom(1));
  refreshCosts(fine, finer);
  expect(fine.targets.every((target) => fine.isDonor[finer.donor[target]!] === 1)).toBe(true);
  // A coarse offset is a multiple of 8 px there, so its double is one of the fine stripes' period, too.
  const inStep = fine.targets.filter((target) => (finer.donor[target]! - target) % 8 === 0).length;
  expect(inStep / fine.targets.length).toBeGreaterThan(0.9);
});
