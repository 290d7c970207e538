import type { Correspondence, SearchPass } from '../fill/correspondence.ts';
import type { ShiftLabelling } from '../fill/expandShift.ts';
import type { Level } from '../fill/level.ts';
import type { Peel } from '../fill/peel.ts';
import type { PhotoStrip, WorkRows } from '../fill/reduce.ts';
import type { SampledPixels } from '../geometry/lanczosBand.ts';
import type { MixtureWork } from '../segment/mixtureBands.ts';
import type { Scratch } from './scratch.ts';
import type { Grid, GridVectors, LaneSums } from '../blend/gridSteps.ts';

/**
 * The hot loops, in whatever way this machine does them best. All arrays of the arguments must come from `scratch`.
 * Integer results are the same to the bit in every implementation and for every number of threads; sums in floating
 * point (the grid steps) agree to single precision between implementations, densities to twelve digits, and both to the
 * bit between numbers of threads.
 */
export interface Kernels {
  readonly scratch: Scratch;
  /** Frees all of `scratch`. One computation at a time: the next begins with this. */
  reset(): void;
  /** Changes `field` in place; see `searchBand`. */
  search(level: Level, field: Correspondence, pass: SearchPass): void;
  /** Measures every target's cost anew; see `costBand`. */
  measureCosts(level: Level, field: Correspondence): void;
  /** Rebuilds the hole's bytes in `level.features`; see `weighBand` and `voteBand`. */
  vote(level: Level, field: Correspondence, perCost: number): void;
  /** Charges what donors cost for their `uses` (one a pixel), averaged over a patch; see `chargeBand`. */
  charge(level: Level, uses: Float32Array, costs: Int32Array, unit: number): void;
  /** Lets cells take a shift over; see `expandShift`. The same to the bit everywhere. */
  expand(labelling: ShiftLabelling, shift: number): void;
  /** Matches the first `count` targets of the peel's layer; see `peelTarget`. */
  peel(level: Level, peel: Peel, count: number): void;
  /** Fills pixels of the hole, none of which any donor has, from the matches around them; see `averagePixel`. */
  average(level: Level, peel: Peel, pixels: Int32Array): void;
  /** Reduces a strip of the photo to `rows` work rows; see `reduceRow`. */
  reduce(strip: PhotoStrip, work: WorkRows, rows: number): void;
  /** Samples opaque pixels under a Lanczos kernel; see `resampleBand`. The same to the bit everywhere. */
  resample(work: SampledPixels): void;
  /** See `blurPlane`, whose arrays may lie anywhere. The same to the bit everywhere. */
  blur(plane: Float32Array, width: number, height: number, radiusPx: number, passes: number): Float32Array<ArrayBuffer>;
  /** The same, in `scratch`. */
  blurInScratch(plane: Float32Array, width: number, height: number, radiusPx: number, passes: number): Float32Array;
  /** How likely picked pixels are; see `densityBand`. */
  weighPicks(work: MixtureWork): void;
  /** The same in shadow; see `shadeBand`. */
  weighPicksInShade(work: MixtureWork): void;
  /** The component each picked pixel most likely is of; see `labelBand`. */
  labelPicks(work: MixtureWork): void;
  /** What labelled pixels sum up to; see `gatherMoments`. */
  gatherMoments(work: MixtureWork): void;
  /** One Gauss-Seidel sweep; see `smoothBand`. */
  smooth(grid: Grid, forward: boolean): void;
  /** So many sweeps forward and back, in one thread; see `relaxGrid`. */
  relax(grid: Grid, sweeps: number): void;
  restrict(grid: Grid, next: Grid): void;
  prolong(grid: Grid, next: Grid): void;
  multiply(grid: Grid, vectors: GridVectors): LaneSums;
  advance(grid: Grid, vectors: GridVectors, factor: LaneSums): LaneSums;
  agreement(grid: Grid, vectors: GridVectors): LaneSums;
  redirect(grid: Grid, vectors: GridVectors, factor: LaneSums): void;
  /**
   * Does `count` bands of work of the core's own code, from `first` (0) on. Helper threads take part if all arrays of
   * `input` come from `scratch` and nothing of it is a function. An input given again must be what it was, but for what
   * its arrays hold.
   */
  inBands<Input>(work: BandWork<Input>, input: Input, count: number, first?: number): void;
  /**
   * Begins the one band of `work`, which a helper thread does while this one goes on; otherwise it is done when it is
   * waited for, by calling what is returned. Until then what `scratch` gave out before must not be given back, but by
   * `reset`. One at a time.
   */
  beside<Input>(work: BandWork<Input>, input: Input): () => void;
  /** An array copied into `scratch`, if there are helper threads that could not read it otherwise; else itself. */
  share<A extends SharedArray>(array: A): A;
  /** Whether kernels can work on an array where it lies, without its being copied into `scratch`. */
  reaches(array: SharedArray): boolean;
}

/**
 * A loop of the core's own code that threads share in bands. A band writes only what is its own and reads nothing that
 * another one writes, so that the result is the same for any number of threads. Inputs are plain data: what is told to
 * other threads arrives without its methods.
 */
export interface BandWork<Input> {
  /** By which other threads know it; see `SHARED_WORK`. */
  readonly name: string;
  band(this: void, input: Input, band: number): void;
}

/** Does all bands in this thread. */
export function workAlone<Input>({ band }: BandWork<Input>, input: Input, count: number, first = 0): void {
  for (let k = first; k < first + count; k++) band(input, k);
}

/** Arrays that can be shared with helper threads. */
export type SharedArray = Uint8Array | Uint8ClampedArray | Int32Array | Float32Array | Float64Array;
