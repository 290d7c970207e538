import { LANES, addLanes, NO_LANES, type Grid, type GridVectors, type LaneSums } from '../core/blend/gridSteps.ts';
import { searchBands, type Correspondence, type SearchPass } from '../core/fill/correspondence.ts';
import { PATCH_RADIUS, type Level } from '../core/fill/level.ts';
import { BAND_SAMPLED } from '../core/geometry/lanczosBand.ts';
import { alternateBands, BAND_PIXELS, BAND_ROWS, bandCount, type BandRun } from '../core/kernels/bands.ts';
import { workAlone, type BandWork, type Kernels } from '../core/kernels/kernels.ts';
import type { MixtureWork } from '../core/segment/mixtureBands.ts';
import { createArena } from './arena.ts';
import { isShared, tell } from './toldWork.ts';
import { ARENA_BASE, BESIDE, CONTROL } from './control.ts';
import { KERNEL_MODULE } from './generated/kernelModule.ts';

/** The kernels' numbers in the module's dispatch. */
const KERNEL = {
  search: 0,
  cost: 1,
  vote: 2,
  settle: 3,
  reduce: 4,
  smooth: 5,
  restrict: 6,
  prolong: 7,
  multiply: 8,
  advance: 9,
  agreement: 10,
  redirect: 11,
  peel: 12,
  resample: 13,
  blurRows: 14,
  blurColumns: 15,
  weighPicks: 16,
  weighPicksInShade: 17,
  labelPicks: 18,
  gatherMoments: 19,
  expand: 20,
  weigh: 21,
  charge: 22,
  relax: 23,
  average: 24,
  /** The core's own code, on what `orderOwnCode` names; see `serve` of the module. */
  ownCode: 255,
} as const;

/** For a helper to take work that is done beside: it may have to be woken. */
const TAKEN_WITHIN_MS = 1;
const MAX_PAGES = 16384;
/** Columns of a blurred plane that one thread does in one go. */
const BAND_COLUMNS = 32;
/** Grids of fewer rows, and levels of fewer targets, than this are not worth waking helpers for. */
const ROWS_ALONE = 64;
const TARGETS_ALONE = 512;

interface KernelExports {
  runAlone(): void;
  runTogether(): void;
  callHelpers(): void;
  takeBand(): number;
  awaitHelpers(): void;
  clear(at: number, bytes: number): void;
}

/** Kernels whose helper threads can be left asleep, where others need the processor more. */
export interface ThreadedKernels extends Kernels {
  /** Whether helper threads take bands (not at first); they are started when first wanted. */
  useHelpers(on: boolean): void;
  /** How many helper threads have started. */
  helpersReady(): number;
  /** Ends the helper threads. */
  close(): void;
}

/** Starts a thread that serves `module` over `memory`; see `serveKernels`. Returns how to end it. */
export type StartHelper = (module: WebAssembly.Module, memory: WebAssembly.Memory) => () => void;

/**
 * The kernels in WebAssembly SIMD over a shared memory that grows to 1 GiB at most. `helpers` further threads take
 * bands along with this one; what comes out is the same for any number of them. Throws where the machine has no
 * WebAssembly with SIMD and threads.
 */
export function createWasmKernels(helpers = 0, startHelper?: StartHelper): ThreadedKernels {
  const bytes = Uint8Array.from(atob(KERNEL_MODULE), (character) => character.charCodeAt(0));
  const module = new WebAssembly.Module(bytes);
  const memory = new WebAssembly.Memory({ initial: 1, maximum: MAX_PAGES, shared: true });
  const { exports } = new WebAssembly.Instance(module, { env: { memory } });
  const { runAlone, runTogether, callHelpers, takeBand, awaitHelpers, clear } = exports as unknown as KernelExports;
  const control = new Int32Array(memory.buffer, 0, ARENA_BASE / 4);
  const doubleControl = new Float64Array(memory.buffer, 0, ARENA_BASE / 8);
  const arena = createArena(memory, ARENA_BASE, clear);
  // What sums need lies in the arena itself, and is lost with what is given back.
  const forgetSums = (): void => {
    partials = new Float64Array(0);
    factors = new Float32Array(0);
  };
  let ends: (() => void)[] = [];
  let helped = false;
  let partials = new Float64Array(0);
  let factors: Float32Array = new Float32Array(0);
  let lastTold: { input: unknown; name: string; words: Uint8Array | undefined } | undefined;
  const wordsFor = <Input>({ name }: BandWork<Input>, input: Input): Uint8Array | undefined => {
    if (lastTold?.input !== input || lastTold.name !== name) lastTold = { input, name, words: tell({ name, input }) };
    return lastTold.words;
  };

  /** Work that a helper does beside this thread, unless it is known to be done. */
  let underWay: { name: string; state: Int32Array } | undefined;
  const awaitUnderWay = (): void => {
    if (!underWay) return;
    const { name, state } = underWay;
    while (Atomics.load(state, 0) === BESIDE.begun) Atomics.wait(state, 0, BESIDE.begun);
    underWay = undefined;
    if (state[0] === BESIDE.failed) throw new Error(`A helper thread failed at ${name}.`);
  };

  const order = (kernel: number, args: readonly number[]): void => {
    control[CONTROL.kernel / 4] = kernel;
    control.set(args, CONTROL.arguments / 4);
  };
  const orderBands = ({ first, stride, count }: BandRun): void => {
    control[CONTROL.next / 4] = 0;
    control[CONTROL.bands / 4] = count;
    control[CONTROL.first / 4] = first;
    control[CONTROL.stride / 4] = stride;
  };
  /** What is told lies in the arena; `state` of work that is done beside, too. */
  const orderOwnCode = (told: Uint8Array, bands: BandRun, state?: Int32Array): void => {
    const words = arena.bytes(told.length);
    words.set(told);
    order(KERNEL.ownCode, [words.byteOffset, words.length, memory.buffer.byteLength, state?.byteOffset ?? 0]);
    orderBands(bands);
    callHelpers();
  };
  const run = (bands: BandRun, alone = false): void => {
    orderBands(bands);
    if (alone || !helped || bands.count < 2) runAlone();
    else runTogether();
  };
  const all = (count: number): BandRun => ({ first: 0, stride: 1, count });

  const orderField = (kernel: number, level: Level, field: Correspondence, pass?: SearchPass): void => {
    order(kernel, [
      level.width,
      level.height,
      level.features.byteOffset,
      level.targets.byteOffset,
      level.rowStarts.byteOffset,
      level.isTarget.byteOffset,
      level.isDonor.byteOffset,
      level.donors.byteOffset,
      level.donors.length,
      field.donor.byteOffset,
      field.cost.byteOffset,
      level.bias.byteOffset,
      level.heightWeight,
      pass?.reach ?? 0,
      pass?.seed ?? 0,
      pass?.pass ?? 0,
      pass?.step ?? 1,
      BAND_ROWS,
    ]);
    control[CONTROL.arguments / 4 + 20] = level.mostForHeight;
  };

  const runPicks = (kernel: number, work: MixtureWork, bands: number): void => {
    order(kernel, [
      work.features.byteOffset,
      work.picks.byteOffset,
      work.picks.length,
      work.offsets.length,
      work.means.byteOffset,
      work.whitening.byteOffset,
      work.offsets.byteOffset,
      work.values.byteOffset,
      work.labels.byteOffset,
      BAND_PIXELS,
      work.weights.byteOffset,
      work.totals.byteOffset,
      work.spreads.byteOffset,
    ]);
    run(all(bands));
  };
  const bandsOf = (work: MixtureWork): number => bandCount(work.picks.length, BAND_PIXELS);

  const runGrid = (
    kernel: number,
    grid: Grid,
    rows: number,
    parts: { forward?: boolean; next?: Grid; vectors?: GridVectors; factor?: LaneSums; sweeps?: number },
  ): void => {
    const { forward = true, next, vectors, factor, sweeps = 0 } = parts;
    if (factor) factors.set(factor);
    order(kernel, [
      grid.width,
      grid.height,
      grid.right.byteOffset,
      grid.down.byteOffset,
      grid.inverse.byteOffset,
      grid.starts.byteOffset,
      grid.ends.byteOffset,
      grid.solution.byteOffset,
      grid.rightSide.byteOffset,
      BAND_ROWS,
      forward ? 1 : 0,
      next?.width ?? 0,
      next?.solution.byteOffset ?? 0,
      next?.rightSide.byteOffset ?? 0,
      next?.starts.byteOffset ?? 0,
      next?.ends.byteOffset ?? 0,
      vectors?.u.byteOffset ?? 0,
      vectors?.residual.byteOffset ?? 0,
      vectors?.direction.byteOffset ?? 0,
      vectors?.product.byteOffset ?? 0,
      partials.byteOffset,
      rows,
      factors.byteOffset,
      sweeps,
    ]);
    const count = sweeps > 0 ? 1 : bandCount(rows, BAND_ROWS);
    const alone = rows < ROWS_ALONE;
    if (kernel === KERNEL.smooth) for (const half of alternateBands(count, forward)) run(half, alone);
    else run(all(count), alone);
  };
  /** Room for the factors and partial sums of vectors on this grid. */
  const prepareSums = (grid: Grid): number => {
    const count = bandCount(grid.height, BAND_ROWS);
    if (partials.length < LANES * count) {
      factors = arena.floats(LANES);
      const at = arena.floats(2 * LANES * count).byteOffset;
      partials = new Float64Array(memory.buffer, at, LANES * count);
    }
    return count;
  };
  const summed = (kernel: number, grid: Grid, vectors: GridVectors, factor?: LaneSums): LaneSums => {
    const count = prepareSums(grid);
    runGrid(kernel, grid, grid.height, { vectors, ...(factor && { factor }) });
    let sums = NO_LANES;
    for (let band = 0; band < count; band++) {
      const [a, b, c, d] = partials.subarray(LANES * band, LANES * (band + 1));
      sums = addLanes(sums, [a!, b!, c!, d!]);
    }
    return sums;
  };

  /** A plane under a box filter, in the arena; see `blur`. */
  const blurred = (plane: Float32Array, width: number, height: number, radiusPx: number, passes: number) => {
    const out = arena.unsetFloats(plane.length);
    const giveBack = arena.hold();
    const [rows, sums] = [arena.unsetFloats(plane.length), arena.doubles(width)];
    let source = plane;
    if (!isShared(plane) || passes === 0) {
      out.set(plane);
      source = out;
    }
    const whole = Math.floor(radiusPx);
    const orderPass = (kernel: number, from: Float32Array, to: Float32Array, size: number): void => {
      order(kernel, [width, height, from.byteOffset, to.byteOffset, whole, size]);
      const at = CONTROL.arguments / 8;
      doubleControl.set([radiusPx - whole, 1 / (2 * radiusPx + 1)], at + 3);
      control[CONTROL.arguments / 4 + 10] = sums.byteOffset;
    };
    for (let pass = 0; pass < passes; pass++) {
      orderPass(KERNEL.blurRows, source, rows, BAND_ROWS);
      run(all(bandCount(height, BAND_ROWS)));
      orderPass(KERNEL.blurColumns, rows, out, BAND_COLUMNS);
      run(all(bandCount(width, BAND_COLUMNS)));
      source = out;
    }
    giveBack();
    return out;
  };

  return {
    scratch: {
      ...arena,
      hold() {
        const giveBack = arena.hold();
        return () => {
          giveBack();
          forgetSums();
        };
      },
    },
    reset() {
      awaitUnderWay();
      arena.reset();
      forgetSums();
    },
    search(level, field, pass) {
      const giveBack = arena.hold();
      orderField(KERNEL.search, level, field, pass);
      const { top, count, before } = searchBands(level, field, pass, arena);
      control.set([before.byteOffset, top], CONTROL.arguments / 4 + 18);
      run(all(count), level.targets.length < TARGETS_ALONE);
      giveBack();
    },
    measureCosts(level, field) {
      orderField(KERNEL.cost, level, field);
      run(all(bandCount(level.height, BAND_ROWS)), level.targets.length < TARGETS_ALONE);
    },
    vote(level, field, perCost) {
      order(KERNEL.vote, [
        level.width,
        level.height,
        level.features.byteOffset,
        level.holePixels.byteOffset,
        level.holePixels.length,
        level.weight.byteOffset,
        field.donor.byteOffset,
        level.next.byteOffset,
        BAND_PIXELS,
        level.targets.byteOffset,
        level.targets.length,
        level.falloff.byteOffset,
        field.cost.byteOffset,
      ]);
      doubleControl[CONTROL.arguments / 8 + 7] = perCost;
      const bands = all(bandCount(level.holePixels.length, BAND_PIXELS));
      const alone = level.holePixels.length < TARGETS_ALONE;
      control[CONTROL.kernel / 4] = KERNEL.weigh;
      run(all(bandCount(level.targets.length, BAND_PIXELS)), alone);
      control[CONTROL.kernel / 4] = KERNEL.vote;
      run(bands, alone);
      control[CONTROL.kernel / 4] = KERNEL.settle;
      run(bands, alone);
    },
    expand(labelling, shift) {
      order(KERNEL.expand, [
        labelling.width,
        labelling.width * labelling.height,
        labelling.features.byteOffset,
        labelling.hole.byteOffset,
        labelling.usable.byteOffset,
        labelling.coarse.byteOffset,
        labelling.column.byteOffset,
        labelling.cells.byteOffset,
        labelling.cells.length,
        labelling.besides.byteOffset,
        labelling.isAtRim.byteOffset,
        labelling.dx.byteOffset,
        labelling.dy.byteOffset,
        labelling.step.byteOffset,
        labelling.label.byteOffset,
        labelling.own.byteOffset,
        labelling.tried.byteOffset,
        labelling.change.byteOffset,
        labelling.node.byteOffset,
        labelling.room.byteOffset,
        shift,
        labelling.lengthCost,
        labelling.slack.byteOffset,
      ]);
      doubleControl.set([labelling.heightCost, labelling.mostForHeight], CONTROL.arguments / 8 + 12);
      run(all(1));
    },
    peel(level, peel, count) {
      order(KERNEL.peel, [
        level.width,
        level.height,
        level.features.byteOffset,
        peel.known.byteOffset,
        peel.layer.byteOffset,
        peel.matched.byteOffset,
        peel.field.donor.byteOffset,
        level.isDonor.byteOffset,
        level.donors.byteOffset,
        level.donors.length,
        peel.stride,
        peel.masks.byteOffset,
        peel.found.byteOffset,
        level.bias.byteOffset,
        ...peel.mean,
        peel.variance,
      ]);
      run(all(count));
    },
    average(level, peel, pixels) {
      order(KERNEL.average, [
        level.width,
        level.height,
        level.features.byteOffset,
        pixels.byteOffset,
        peel.matched.byteOffset,
        peel.field.donor.byteOffset,
      ]);
      run(all(pixels.length), pixels.length < TARGETS_ALONE);
    },
    reduce(strip, work, rows) {
      order(KERNEL.reduce, [
        strip.width,
        strip.rows,
        strip.below ? 1 : 0,
        strip.factor,
        work.width,
        strip.pixels.byteOffset,
        strip.holes.byteOffset,
        strip.donors.byteOffset,
        work.sums.byteOffset,
        work.flags.byteOffset,
      ]);
      run(all(rows));
    },
    resample(work) {
      order(KERNEL.resample, [
        work.window.byteOffset,
        work.windowWidth,
        work.positions.byteOffset,
        work.samplesPerPixel,
        work.pixels,
        work.weights.byteOffset,
        work.out.byteOffset,
        BAND_SAMPLED,
      ]);
      run(all(bandCount(work.pixels, BAND_SAMPLED)));
    },
    charge(level, uses, costs, unit) {
      const giveBack = arena.hold();
      const density = blurred(uses, level.width, level.height, PATCH_RADIUS, 1);
      order(KERNEL.charge, [
        level.width,
        level.height,
        density.byteOffset,
        costs.byteOffset,
        level.bias.byteOffset,
        BAND_ROWS,
      ]);
      doubleControl[CONTROL.arguments / 8 + 3] = unit;
      run(all(bandCount(level.height, BAND_ROWS)), level.targets.length < TARGETS_ALONE);
      giveBack();
    },
    blur(plane, width, height, radiusPx, passes) {
      const giveBack = arena.hold();
      const result = new Float32Array(plane.length);
      result.set(blurred(plane, width, height, radiusPx, passes));
      giveBack();
      return result;
    },
    blurInScratch: blurred,
    weighPicks: (work) => runPicks(KERNEL.weighPicks, work, bandsOf(work)),
    weighPicksInShade: (work) => runPicks(KERNEL.weighPicksInShade, work, bandsOf(work)),
    labelPicks: (work) => runPicks(KERNEL.labelPicks, work, bandsOf(work)),
    gatherMoments: (work) => runPicks(KERNEL.gatherMoments, work, 1),
    smooth: (grid, forward) => runGrid(KERNEL.smooth, grid, grid.height, { forward }),
    relax: (grid, sweeps) => runGrid(KERNEL.relax, grid, grid.height, { sweeps }),
    restrict: (grid, next) => runGrid(KERNEL.restrict, grid, next.height, { next }),
    prolong: (grid, next) => runGrid(KERNEL.prolong, grid, grid.height, { next }),
    multiply: (grid, vectors) => summed(KERNEL.multiply, grid, vectors),
    advance: (grid, vectors, factor) => {
      prepareSums(grid);
      return summed(KERNEL.advance, grid, vectors, factor);
    },
    agreement: (grid, vectors) => summed(KERNEL.agreement, grid, vectors),
    redirect(grid, vectors, factor) {
      prepareSums(grid);
      runGrid(KERNEL.redirect, grid, grid.height, { vectors, factor });
    },
    inBands(work, input, count, first = 0) {
      const told = helped && count > 1 ? wordsFor(work, input) : undefined;
      if (!told) {
        workAlone(work, input, count, first);
        return;
      }
      const giveBack = arena.hold();
      const failed = control[CONTROL.failures / 4];
      orderOwnCode(told, { first, stride: 1, count });
      try {
        for (let band = takeBand(); band >= 0; band = takeBand()) work.band(input, band);
      } finally {
        awaitHelpers();
        giveBack();
      }
      if (control[CONTROL.failures / 4] !== failed) throw new Error(`A helper thread failed at ${work.name}.`);
    },
    beside(work, input) {
      awaitUnderWay();
      const isHelped = helped && Atomics.load(control, CONTROL.ready / 4) > 0;
      const told = isHelped ? tell({ name: work.name, input }) : undefined;
      let isTaken = false;
      if (told) {
        const state = arena.ints(1);
        orderOwnCode(told, all(1), state);
        const end = performance.now() + TAKEN_WITHIN_MS;
        while (Atomics.load(control, CONTROL.next / 4) === 0 && performance.now() < end);
        isTaken = takeBand() < 0;
        if (isTaken) underWay = { name: work.name, state };
        awaitHelpers();
      }
      return () => {
        if (isTaken) awaitUnderWay();
        else work.band(input, 0);
      };
    },
    share(array) {
      if (!helped || isShared(array)) return array;
      return arena.copyOf(array);
    },
    reaches: isShared,
    useHelpers(on) {
      if (on && startHelper && ends.length === 0) {
        ends = Array.from({ length: helpers }, () => startHelper(module, memory));
      }
      helped = on && ends.length > 0;
    },
    helpersReady: () => Atomics.load(control, CONTROL.ready / 4),
    close() {
      ends.forEach((end) => end());
      ends = [];
      underWay = undefined;
      helped = false;
    },
  };
}
