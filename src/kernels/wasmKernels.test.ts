import { COPY } from '../core/fill/wholeSources.ts';
import { shiftedSources } from '../core/fill/sources.ts';
import { cropImage } from '../core/image/rasterImage.ts';
import { rowBands } from '../core/kernels/bands.ts';
import type { PlaneCorners } from '../core/planes/findPlanes.ts';
import { maskOf, noise, pictureOf } from '../../tests/support/pictures.ts';
import { solveGrid } from '../core/blend/gridLaplacian.ts';
import { coherentSources } from '../core/fill/coherentSources.ts';
import { randomCorrespondence } from '../core/fill/correspondence.ts';
import { fillRegion } from '../core/fill/fill.ts';
import { peelHole } from '../core/fill/onionPeel.ts';
import { buildPyramid } from '../core/fill/pyramid.ts';
import { chargeRepeats } from '../core/fill/repeats.ts';
import { FILL_STRATEGIES } from '../core/fill/strategy.ts';
import { voteHole } from '../core/fill/vote.ts';
import { makeWorkImage } from '../core/fill/workImage.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { createTwinKernels } from '../core/kernels/twinKernels.ts';
import { createRandom } from '../core/numeric/random.ts';
import { drain } from '../core/progress.ts';
import { fitMixture } from '../core/segment/fitMixture.ts';
import { likeliestComponents, logDensities, shadedLogDensities } from '../core/segment/weighPixels.ts';
import { nodeKernels } from './node/nodeKernels.ts';
import { openKernels } from './openKernels.ts';
import { createWasmKernels, type ThreadedKernels } from './wasmKernels.ts';

const [WIDTH, HEIGHT] = [421, 303];
const grain = noise(3, 60);
const PHOTO = pictureOf(WIDTH, HEIGHT, (x, y) => [120 + grain() + x / 8, 100 + grain(), 140 + (y % 16 < 2 ? -90 : 0)]);
const MARK = maskOf(WIDTH, HEIGHT, (x, y) => (x - 200) ** 2 + (y - 150) ** 2 < 50 ** 2 || (x < 40 && y > 270));

const fill = (kernels: Kernels, planes?: readonly PlaneCorners[]) =>
  drain(
    fillRegion(
      { image: PHOTO, mark: MARK, strategy: FILL_STRATEGIES[0]!, seed: 1, ...(planes && { planes }) },
      kernels,
    ),
  );

/** A plane that holds the round part of the mark. */
const PLANE: PlaneCorners = {
  corners: [
    { x: 60, y: 20 },
    { x: 330, y: 40 },
    { x: 380, y: 290 },
    { x: 50, y: 280 },
  ],
};

const opened: { close(): void }[] = [];
const threads = (count: number) => {
  const kernels = nodeKernels(count);
  opened.push(kernels);
  return kernels;
};
afterAll(() => opened.forEach((kernels) => kernels.close()));

/** Kernels whose threads have all started, from when on they take part. */
const started = new Map<number, ThreadedKernels>();
async function readyThreads(count: number) {
  const kernels = started.get(count) ?? threads(count);
  started.set(count, kernels);
  while (kernels.helpersReady() < count - 1) await new Promise((resolve) => setTimeout(resolve, 20));
  return kernels;
}

/** What whole-number kernels make of the photo: features, peel, charges, a search in both directions, a vote, pieces. */
function integerWork(kernels: Kernels) {
  kernels.reset();
  const work = makeWorkImage(PHOTO, MARK.data, undefined, 2, 5, kernels);
  const levels = buildPyramid(work, 40, 60, kernels, 900);
  const coarse = levels[levels.length - 1]!;
  coarse.donors.forEach((donor, k) => (coarse.bias[donor] = (k % 13) * 4000));
  const peeled = peelHole(coarse, kernels);
  const fine = levels[0]!;
  const field = randomCorrespondence(fine, createRandom(4), kernels.scratch);
  kernels.measureCosts(fine, field);
  const ownCosts = kernels.scratch.ints(fine.bias.length);
  ownCosts.fill(70);
  chargeRepeats(fine, field, 0.4, ownCosts, kernels);
  kernels.measureCosts(fine, field);
  for (const step of [1, -1] as const) {
    kernels.search(fine, field, { reach: 60, seed: 4, pass: step + 1, step });
    voteHole(fine, field, 1, kernels);
  }
  const joined = [false, true].flatMap((onPlane) => {
    const { dx, dy } = coherentSources(fine, field, 2, kernels, { onPlane });
    return [dx, dy];
  });
  const made = [coarse.features, peeled.donor, peeled.cost, fine.features, fine.bias, field.donor, field.cost];
  return [...made, ...joined].map((a) => Array.from(a));
}

test('whole-number kernels give the very numbers of their plain twins', () => {
  expect(integerWork(threads(1))).toEqual(integerWork(createTwinKernels()));
});

test('the solver agrees with its plain twin to single precision', () => {
  const n = 90 * 70;
  const random = createRandom(2);
  const share = () => random.below(1000) / 1000;
  const system = {
    width: 90,
    height: 70,
    right: Float32Array.from({ length: n }, (_, i) => (i % 90 < 89 ? 0.3 + share() : 0)),
    down: Float32Array.from({ length: n }, (_, i) => (i < n - 90 ? 0.3 + share() : 0)),
    extra: Float32Array.from({ length: n }, () => 0.02),
  };
  const rightSides = Float32Array.from({ length: 4 * n }, () => 10 * share() - 5);
  const solve = (kernels: Kernels) => solveGrid(system, rightSides, kernels, 1e-5, 30);
  const own = solve(threads(1));
  const twin = solve(createTwinKernels());
  const largest = twin.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  own.forEach((value, i) => expect(Math.abs(value - twin[i]!)).toBeLessThan(1e-4 * largest));
});

test('blurred planes are those of the plain twin to the bit, for any radius and number of threads', () => {
  const level = noise(6, 255);
  for (const [width, height, radius] of [
    [131, 70, 0.4],
    [131, 70, 3],
    [70, 131, 7.25],
    // The filter is wider than the plane.
    [9, 5, 12.5],
    [1, 1, 2],
  ] as const) {
    const plane = Float32Array.from({ length: width * height }, level);
    const plain = createTwinKernels().blur(plane, width, height, radius, 3);
    for (const count of [1, 3]) {
      const kernels = threads(count);
      expect(kernels.blur(plane, width, height, radius, 3)).toEqual(plain);
      expect(Array.from(kernels.blurInScratch(plane, width, height, radius, 3))).toEqual(Array.from(plain));
    }
  }
});

/** Clouds of features, and a mixture fitted to every third of them, the last component to none. */
function mixtureWorkOf(kernels: Kernels) {
  const level = noise(9, 90);
  const features = Float32Array.from({ length: 5 * 1501 }, (_, i) => 40 * (Math.floor(i / 5) % 4) + level() / 4);
  const picks = Array.from({ length: 501 }, (_, k) => 3 * k);
  const mixture = fitMixture(
    features,
    picks,
    picks.map((k) => 1 + (k % 5)),
    5,
    createRandom(2),
    kernels,
  );
  mixture.offsets[4] = Infinity;
  return {
    mixture,
    densities: logDensities(mixture, features, picks, kernels),
    shaded: shadedLogDensities(mixture, features, picks, kernels),
    likeliest: likeliestComponents(mixture, features, picks, kernels),
  };
}

test('mixtures and densities are those of the plain twins to twelve digits', () => {
  const plain = mixtureWorkOf(createTwinKernels());
  for (const count of [1, 2]) {
    const own = mixtureWorkOf(threads(count));
    const expectClose = (a: Float64Array, b: Float64Array) =>
      a.forEach((value, i) => {
        if (value !== b[i]) expect(Math.abs(value - b[i]!)).toBeLessThan(1e-12 * Math.abs(value));
      });
    expectClose(own.mixture.means, plain.mixture.means);
    expectClose(own.mixture.whitening, plain.mixture.whitening);
    expectClose(own.densities, plain.densities);
    expectClose(own.shaded, plain.shaded);
    expectClose(own.likeliest.densities, plain.likeliest.densities);
    expect(own.likeliest.labels).toEqual(plain.likeliest.labels);
  }
  // Some are no shadow of anything, others are.
  expect(plain.shaded.some(Number.isFinite)).toBe(true);
  expect(plain.shaded.every(Number.isFinite)).toBe(false);
  expect(new Set(plain.likeliest.labels).size).toBeGreaterThan(2);
});

test('one, two and three threads give the same picture to the byte', async () => {
  const alone = fill(threads(1)).image.data;
  expect(fill(await readyThreads(2)).image.data).toEqual(alone);
  expect(fill(await readyThreads(3)).image.data).toEqual(alone);
});

test('so they do along a plane, together with what is not on it', async () => {
  const alone = fill(threads(1), [PLANE]);
  const together = fill(await readyThreads(2), [PLANE]);
  expect(together.image.data).toEqual(alone.image.data);
  expect(together.measures).toEqual(alone.measures);
});

/** A box of two hundred rows to be copied from fifty px farther right, with what it is to become. */
function toCopy(kernels: Kernels) {
  const [width, height] = [300, 200];
  const box = { x: 0, y: 0, width: 200, height };
  const data = kernels.scratch.bytes(4 * width * height).map((_, i) => i % 251);
  const image = { width, height, data: new Uint8ClampedArray(data) };
  const cells = { width: 1, height: 1, factor: 400, dx: Int32Array.of(50), dy: Int32Array.of(0), left: 0, top: 0 };
  const hole = new Uint8Array(width * height);
  const sources = shiftedSources(image, hole, cells, 1).shared!(kernels);
  const part = kernels.scratch.bytes(width * height).fill(1);
  const out = kernels.share(new Uint8ClampedArray(4 * box.width * height));
  return { input: { sources, part, box, out }, copied: cropImage(image, { ...box, x: 50 }).data };
}

/** Copies in two turns, so slowly in this thread that a helper gets its share. */
function slowCopy(kernels: Kernels, name = COPY.name) {
  const { input, copied } = toCopy(kernels);
  let own = 0;
  const work: typeof COPY = {
    name,
    band(input, band) {
      own++;
      const end = performance.now() + 100;
      while (performance.now() < end);
      COPY.band(input, band);
    },
  };
  const bands = rowBands(input.box.height);
  kernels.inBands(work, input, 3);
  kernels.inBands(work, input, bands - 3, 3);
  return { own, bands, out: input.out, copied };
}

test('helpers take bands of the core’s own code; none is done twice or left out', async () => {
  const { own, bands, out, copied } = slowCopy(await readyThreads(2));
  expect(own).toBeLessThan(bands);
  expect(Array.from(out)).toEqual(Array.from(copied));
});

test('a helper that fails is told of, and the next work is done by all again', async () => {
  const kernels = await readyThreads(2);
  expect(() => slowCopy(kernels, 'no such work')).toThrow(/helper thread failed/);
  const { own, bands, out, copied } = slowCopy(kernels);
  expect(own).toBeLessThan(bands);
  expect(Array.from(out)).toEqual(Array.from(copied));
});

/** The first band of a copy done beside what `meanwhile` does; `own` is how much of it this thread had to do itself. */
function copyBeside(kernels: Kernels, meanwhile: () => void, spoilt?: object) {
  kernels.reset();
  const { input, copied } = toCopy(kernels);
  let own = 0;
  const work: typeof COPY = {
    name: COPY.name,
    band(input, band) {
      own++;
      COPY.band(input, band);
    },
  };
  const finish = kernels.beside(work, { ...input, ...spoilt });
  meanwhile();
  const done = input.out.subarray(0, 32 * 4 * input.box.width);
  return { done, finish, copied: copied.subarray(0, done.length), own: () => own };
}

/** Tries until a helper was quick enough to take the work. */
async function taken(attempt: (kernels: ThreadedKernels) => boolean): Promise<boolean> {
  const kernels = await readyThreads(2);
  return Array.from({ length: 200 }).some(() => attempt(kernels));
}

test('a helper does work beside the kernels that this thread orders meanwhile', async () => {
  const plane = Float32Array.from({ length: 90 * 70 }, (_, i) => i % 17);
  const blurred = createTwinKernels().blur(plane, 90, 70, 3, 2);
  const wasTaken = await taken((kernels) => {
    const { done, finish, copied, own } = copyBeside(kernels, () => {
      expect(kernels.blur(plane, 90, 70, 3, 2)).toEqual(blurred);
    });
    finish();
    expect(Array.from(done)).toEqual(Array.from(copied));
    return own() === 0;
  });
  expect(wasTaken).toBe(true);
});

test('a reset waits for what a helper does beside', async () => {
  const wasTaken = await taken((kernels) => {
    const { done, copied, own } = copyBeside(kernels, () => kernels.reset());
    return own() === 0 && Array.from(done).every((value, i) => value === copied[i]);
  });
  expect(wasTaken).toBe(true);
});

test('a helper that fails beside is told of when it is waited for', async () => {
  const failed = await taken((kernels) => {
    const { finish } = copyBeside(kernels, () => undefined, { sources: {} });
    try {
      finish();
      return false;
    } catch (error) {
      return /helper thread failed/.test(String(error));
    }
  });
  expect(failed).toBe(true);
});

test('without helpers work beside is done when it is waited for', () => {
  const { done, finish, copied, own } = copyBeside(threads(1), () => undefined);
  expect(own()).toBe(0);
  finish();
  expect(own()).toBe(1);
  expect(Array.from(done)).toEqual(Array.from(copied));
});

test('helpers put to sleep and woken again change nothing', () => {
  const kernels = threads(2);
  const first = fill(kernels).image.data;
  kernels.useHelpers(false);
  expect(fill(kernels).image.data).toEqual(first);
  kernels.useHelpers(true);
  expect(fill(kernels).image.data).toEqual(first);
});

test('without threads or SIMD the plain kernels do the work', () => {
  const kernels = openKernels(1, () => {
    throw new Error('no helpers here');
  });
  const whole = WebAssembly.Module;
  try {
    WebAssembly.Module = (() => {
      throw new WebAssembly.CompileError('no SIMD');
    }) as unknown as typeof WebAssembly.Module;
    const plain = openKernels(0, () => () => undefined);
    expect(integerWork(plain)).toEqual(integerWork(kernels));
  } finally {
    WebAssembly.Module = whole;
  }
});

test('more memory than the module may have is refused with what to do', () => {
  const kernels = createWasmKernels();
  expect(() => kernels.scratch.bytes(2 ** 31 - 1)).toThrow(/make it smaller/);
});
