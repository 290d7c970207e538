import { kernels } from '../../../tests/support/kernels.ts';
import { noise } from '../../../tests/support/pictures.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { createRandom } from '../numeric/random.ts';
import { randomCorrespondence, refineCorrespondence, searchBand, searchBands } from './correspondence.ts';
import { indexLevel } from './level.ts';
import { peelHole } from './onionPeel.ts';
import { FEATURE_PADDING } from './workImage.ts';
import { voteHole } from './vote.ts';

/** Vertical stripes of a period of 8 px with a square hole. */
function striped(width: number, height: number, { scratch }: Kernels) {
  const n = width * height;
  const features = scratch.bytes(4 * n + FEATURE_PADDING);
  const hole = new Uint8Array(n);
  for (let i = 0; i < n; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    hole[i] = x >= width / 2 - 8 && x < width / 2 + 8 && y >= height / 2 - 8 && y < height / 2 + 8 ? 1 : 0;
    features.set(hole[i] ? [0, 0, 0, 0] : [x % 8 < 4 ? 60 : 190, 128, 128, 30], 4 * i);
  }
  return indexLevel({ width, height, features, hole, usable: hole.map((h) => 1 - h) }, 0, scratch);
}

/** Noise whose part inside the hole is that of a place 40 px to the left: there and only there every patch fits. */
function copiedElsewhere({ scratch }: Kernels) {
  const [width, height, left] = [96, 48, 40];
  const grain = noise(11, 120);
  const features = scratch.bytes(4 * width * height + FEATURE_PADDING);
  for (let i = 0; i < 4 * width * height; i++) features[i] = 128 + grain();
  const hole = Uint8Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return x >= 56 && x < 72 && y >= 16 && y < 32 ? 1 : 0;
  });
  for (let y = 8; y < 40; y++) {
    for (let x = 48; x < 80; x++) {
      const i = y * width + x;
      for (let c = 0; c < 4; c++) features[4 * i + c] = features[4 * (i - left) + c]!;
    }
  }
  const usable = hole.map((h) => 1 - h);
  return { level: indexLevel({ width, height, features, hole, usable }, 0, scratch), offset: -left };
}

const sum = (values: Int32Array, at: Int32Array): number => at.reduce((total, i) => total + values[i]!, 0);

const BOTH = [
  { kind: 'WebAssembly', make: () => kernels },
  { kind: 'plain', make: createTwinKernels },
];
beforeEach(() => kernels.reset());

describe.each(BOTH)('$kind kernels', ({ make }) => {
  test('each pass of the search only improves, and every donor stays a legal one', () => {
    const own = make();
    const level = striped(80, 64, own);
    const field = randomCorrespondence(level, createRandom(3), own.scratch);
    own.measureCosts(level, field);
    let before = sum(field.cost, level.targets);
    for (let pass = 0; pass < 12; pass++) {
      own.search(level, field, { reach: 40, seed: 3, pass, step: pass % 2 ? -1 : 1 });
      const after = sum(field.cost, level.targets);
      expect(after).toBeLessThanOrEqual(before);
      before = after;
    }
    expect(level.targets.every((target) => level.isDonor[field.donor[target]!] === 1)).toBe(true);
  });

  test('where one place alone fits each patch, the search finds the offset field of that place', () => {
    const own = make();
    const { level, offset } = copiedElsewhere(own);
    const field = randomCorrespondence(level, createRandom(5), own.scratch);
    own.measureCosts(level, field);
    for (let pass = 0; pass < 24; pass++) {
      own.search(level, field, { reach: 48, seed: 5, pass, step: pass % 2 ? -1 : 1 });
    }
    const found = level.targets.filter((target) => field.donor[target]! - target === offset).length;
    expect(found).toBe(level.targets.length);
    expect(sum(field.cost, level.targets)).toBe(0);
  });

  test('a donor’s bias and its height above the target are paid for', () => {
    const own = make();
    const { level, offset } = copiedElsewhere(own);
    const target = level.targets[0]!;
    const field = { donor: own.scratch.ints(level.hole.length), cost: own.scratch.ints(level.hole.length) };
    for (const t of level.targets) field.donor[t] = t + offset;
    level.bias[target + offset] = 77;
    own.measureCosts({ ...level, heightWeight: 3 }, field);
    const rows = Math.abs(Math.round(offset / level.width));
    expect(field.cost[target]).toBe(77 + 3 * rows);
    own.measureCosts({ ...level, heightWeight: 3, mostForHeight: 3 * rows - 1 }, field);
    expect(field.cost[target]).toBe(77 + 3 * rows - 1);
  });

  test('a hole is peeled from what costs less of itself, where both fit alike', () => {
    const own = make();
    const level = striped(80, 64, own);
    const isDear = (donor: number): boolean => donor % 80 >= 40;
    for (const donor of level.donors) if (isDear(donor)) level.bias[donor] = 1_000_000;
    const { donor } = peelHole(level, own);
    expect(level.targets.some((target) => isDear(donor[target]!))).toBe(false);
  });

  test('peeled and voted, stripes run through the hole in step', () => {
    const own = make();
    const level = striped(80, 64, own);
    const field = peelHole(level, own);
    voteHole(level, field, 1, own);
    const off = Array.from(level.holePixels, (i) => Math.abs(level.features[4 * i]! - ((i % 80) % 8 < 4 ? 60 : 190)));
    // Where hardly any of the rim is seen a patch may be out of phase; it counts next to nothing in the vote.
    expect(off.filter((difference) => difference > 10).length / off.length).toBeLessThan(0.1);
  });
});

test.each([1, -1] as const)('bands may be searched in any order (step %i)', (step) => {
  const found = [false, true].map((isBackwards) => {
    const own = createTwinKernels();
    const level = striped(80, 64, own);
    const field = randomCorrespondence(level, createRandom(7), own.scratch);
    own.measureCosts(level, field);
    for (const pass of [0, 2]) {
      const order = { reach: 30, seed: 7, pass, step };
      const bands = searchBands(level, field, order, own.scratch);
      for (let k = 0; k < bands.count; k++) {
        searchBand(level, field, order, bands, isBackwards ? bands.count - 1 - k : k);
      }
    }
    return field;
  });
  expect(found[1]).toEqual(found[0]);
});

test('refined to twice the size, a field keeps its offsets: stripes stay in step without any search', () => {
  const coarse = striped(40, 32, kernels);
  const field = peelHole(coarse, kernels);
  const fine = striped(80, 64, kernels);
  const finer = refineCorrespondence(coarse, field, fine, createRandom(1), kernels.scratch);
  kernels.measureCosts(fine, finer);
  expect(fine.targets.every((target) => fine.isDonor[finer.donor[target]!] === 1)).toBe(true);
  // A coarse offset is a multiple of 8 px there, so its double is one of the fine stripes' period, too.
  const inStep = fine.targets.filter((target) => (finer.donor[target]! - target) % 8 === 0).length;
  expect(inStep / fine.targets.length).toBeGreaterThan(0.85);
});
