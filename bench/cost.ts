import { execFile, execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { coherentSources } from '../src/core/fill/coherentSources.ts';
import { randomCorrespondence } from '../src/core/fill/correspondence.ts';
import { indexLevel } from '../src/core/fill/level.ts';
import { voteHole } from '../src/core/fill/vote.ts';
import { makeWorkImage } from '../src/core/fill/workImage.ts';
import type { RasterImage } from '../src/core/image/rasterImage.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { createTwinKernels } from '../src/core/kernels/twinKernels.ts';
import { createMask, type Mask } from '../src/core/mask/mask.ts';
import { createRandom } from '../src/core/numeric/random.ts';
import { FEATURES } from '../src/core/segment/colourMixture.ts';
import { mixtureWork } from '../src/core/segment/mixtureBands.ts';
import { mixtureFor } from '../src/core/segment/fitMixture.ts';
import { logDensities } from '../src/core/segment/weighPixels.ts';
import { nodeKernels } from '../src/kernels/node/nodeKernels.ts';
import { FIRST_ROUND, rebuild, type Rebuilt } from './rebuild.ts';
import type { Probe } from './memoryProbe.ts';
import { boardsPhoto } from './scenes.ts';
import type { Table } from './table.ts';

const run = promisify(execFile);

const SIZES: readonly [megapixels: number, width: number, height: number][] = [
  [1.2, 1280, 960],
  [12, 4000, 3000],
  [24, 6000, 4000],
  [45, 8192, 5464],
];
const HOLE_SHARE = 0.04;
const DENSITY_PIXELS = 60_000;
const EVEN_COMPONENTS = 64;

/** A disc of a share of the picture's area, in its middle. */
export function discMark({ width, height }: { width: number; height: number }, share: number): Mask {
  const mark = createMask(width, height);
  const radius = Math.sqrt((share * width * height) / Math.PI);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if ((x - width / 2) ** 2 + (y - height / 2) ** 2 < radius * radius) mark.data[y * width + x] = 255;
    }
  }
  return mark;
}

const STAGES = [
  'planes',
  'match',
  'join',
  'align',
  'cut',
  'bend',
  'copy',
  'seams',
  'measure',
  'detail',
  'finish',
] as const;

/** Others on the machine slow single runs down by half and more. */
const RUNS = 12;
/** While code is still being compiled, that takes a core of its own. */
const RUNS_TO_WARM_UP = 5;
const RUNS_OF_A_KERNEL = 10;

/** The first take at growing sizes, stage by stage, by one thread and by two. */
export function measureTime(): Table[] {
  const time: Table = {
    title: 'Time of the first take',
    about: `A hole of 4 % of the picture, warmed up by ${RUNS_TO_WARM_UP} runs, milliseconds by the clock, the fastest of ${RUNS} runs in turns. One thread, by stage; then two threads, and how many times as fast those are: by these fastest runs, and as the median of all pairs of runs one after the other. Last, how many times as fast two threads did what can be shared evenly and needs no memory (densities), between those runs: so much of a second core there was.`,
    columns: ['', 'hole px', ...STAGES, 'all, 1 thread', '2 threads', 'gain', 'of pairs', 'shared evenly'],
    rows: [],
  };
  const [one, two] = [nodeKernels(1), nodeKernels(2)];
  const strategy = FIRST_ROUND[0]!;
  for (const [megapixels, width, height] of SIZES) {
    const photo = boardsPhoto(width, height);
    const mark = discMark(photo, HOLE_SHARE);
    for (let run = 0; run < RUNS_TO_WARM_UP; run++) {
      for (const kernels of [one, two]) rebuild(photo, mark, strategy, kernels);
    }
    const runs = Array.from({ length: RUNS }, () =>
      [one, two].map((kernels) => timed(rebuild(photo, mark, strategy, kernels), kernels)),
    ) as [Timed, Timed][];
    const fastest = (k: 0 | 1): Timed => runs.map((pair) => pair[k]).reduce((a, b) => (b.ms < a.ms ? b : a));
    const [alone, together] = [fastest(0), fastest(1)];
    const medianGain = (of: (run: Timed) => number): number =>
      runs.map(([first, second]) => of(first) / of(second)).sort((a, b) => a - b)[RUNS >> 1]!;
    time.rows.push([
      `${megapixels} MP`,
      Math.round(HOLE_SHARE * width * height),
      ...STAGES.map((stage) => Math.round(alone.timings[stage] ?? 0)),
      Math.round(alone.ms),
      Math.round(together.ms),
      alone.ms / together.ms,
      medianGain(({ ms }) => ms),
      medianGain(({ evenMs }) => evenMs),
    ]);
  }
  one.close();
  two.close();
  return [time];
}

interface Timed {
  ms: number;
  timings: Record<string, number>;
  /** What is shared evenly. */
  evenMs: number;
}

/** Of a rebuilt place only how long it took: the pictures of all runs are too much to keep. */
const timed = ({ ms, fill }: Rebuilt, kernels: Kernels): Timed => ({
  ms,
  timings: fill.timings,
  evenMs: evenly(kernels),
});

/** Milliseconds for densities of as many pixels as take about as long as a small take. */
function evenly(kernels: Kernels): number {
  kernels.reset();
  const picks = Array.from({ length: DENSITY_PIXELS }, (_, i) => i);
  const work = mixtureWork(new Float32Array(FEATURES * DENSITY_PIXELS), picks, EVEN_COMPONENTS, kernels.scratch);
  const start = performance.now();
  kernels.weighPicks(work);
  return performance.now() - start;
}

/** A whole round of takes by one process, and by two side by side that share them, as Fingo's workers do. */
export async function measureRound(): Promise<Table> {
  const table: Table = {
    title: 'Time of a round of takes',
    about:
      'All takes of a round for a hole of 4 %, one thread a worker, milliseconds by the clock: by one worker one after the other, and by two that take every other one. The first round after a single take, and the fastest of three more, when all code is compiled.',
    columns: ['', 'takes', '1 worker, first', '2 workers', 'gain', '1 worker, later', '2 workers', 'gain'],
    rows: [],
  };
  const takes = FIRST_ROUND.map((_, k) => k);
  for (const [megapixels, width, height] of SIZES.slice(0, 3)) {
    const alone = await roundsOf(width, height, takes);
    const shared = await Promise.all(
      [0, 1].map((k) =>
        roundsOf(
          width,
          height,
          takes.filter((take) => take % 2 === k),
        ),
      ),
    );
    const columns = alone.flatMap((ms, k) => {
      const together = Math.max(...shared.map((each) => each[k]!));
      return [Math.round(ms), Math.round(together), ms / together];
    });
    table.rows.push([`${megapixels} MP`, takes.length, ...columns]);
  }
  return table;
}

/** Milliseconds of the first round and of a later one. */
async function roundsOf(width: number, height: number, takes: readonly number[]): Promise<number[]> {
  const probe = fileURLToPath(new URL('./roundProbe.ts', import.meta.url));
  const { stdout } = await run(process.execPath, [
    '--import',
    'tsx',
    probe,
    `${width}`,
    `${height}`,
    ...takes.map(String),
  ]);
  return stdout.trim().split(' ').map(Number);
}

/** How much faster each kernel is than its plain twin on the same data. */
export function measureKernels(): Table[] {
  const table: Table = {
    title: 'Kernels against their plain twins',
    about: `One thread, the same data, milliseconds a run (the best of ${RUNS_OF_A_KERNEL}).`,
    columns: ['', 'plain', 'WebAssembly SIMD', 'times faster'],
    rows: [],
  };
  const photo = boardsPhoto(2400, 1600);
  const mark = discMark(photo, 0.05);
  const kinds = [createTwinKernels(), nodeKernels(1)].map((kernels) => timesOf(photo, mark, kernels));
  for (const name of Object.keys(kinds[0]!) as (keyof Times)[]) {
    const [plain, simd] = kinds.map((times) => times[name]);
    table.rows.push([name, plain!, simd!, plain! / simd!]);
  }
  return [table];
}

type Times = Record<'preparation' | 'search' | 'vote' | 'joining' | 'blur' | 'densities', number>;

function timesOf(photo: RasterImage, mark: Mask, kernels: Kernels): Times {
  const best = (run: () => void): number =>
    Math.min(
      ...Array.from({ length: RUNS_OF_A_KERNEL }, () => {
        const start = performance.now();
        run();
        return performance.now() - start;
      }),
    );
  const preparation = best(() => {
    kernels.reset();
    makeWorkImage(photo, mark.data, undefined, 4, 9, kernels);
  });
  kernels.reset();
  const level = indexLevel(makeWorkImage(photo, mark.data, undefined, 4, 9, kernels), 100, kernels.scratch);
  const field = randomCorrespondence(level, createRandom(1), kernels.scratch);
  kernels.measureCosts(level, field);
  let pass = 0;
  const search = best(() => kernels.search(level, field, { reach: 200, seed: 1, pass: pass++, step: 1 }));
  const vote = best(() => voteHole(level, field, 1, kernels));
  const joining = best(() => coherentSources(level, field, 4, kernels));
  const plane = Float32Array.from(photo.data.subarray(0, photo.data.length >> 2));
  const blur = best(() => kernels.blur(plane, photo.width, photo.height >> 2, 3, 2));
  const features = plane.subarray(0, FEATURES * DENSITY_PIXELS);
  const picks = Array.from({ length: DENSITY_PIXELS }, (_, i) => i);
  const mixture = mixtureFor(features, picks, kernels);
  const densities = best(() => logDensities(mixture, features, picks, kernels));
  return { preparation, search, vote, joining, blur, densities };
}

/** How much memory the first take needs beyond the photo and its mark, each size in a process of its own. */
export function measureMemory(): Table[] {
  const table: Table = {
    title: 'Memory of the first take',
    about:
      'Growth of the largest resident size beyond photo and mark, a hole of 4 %, each size in a process of its own.',
    columns: ['', 'photo and mark, MB', 'growth, MB'],
    rows: [],
  };
  for (const [megapixels, width, height] of SIZES.slice(1)) {
    const probe = fileURLToPath(new URL('./memoryProbe.ts', import.meta.url));
    const answer = execFileSync(process.execPath, ['--import', 'tsx', '--expose-gc', probe, `${width}`, `${height}`]);
    const { ownMb, growthMb } = JSON.parse(answer.toString()) as Probe;
    table.rows.push([`${megapixels} MP`, Math.round(ownMb), Math.round(growthMb)]);
  }
  return [table];
}
