import type { z } from 'zod';
import type { Warp } from '../core/geometry/warp.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Rect, Size } from '../core/image/rect.ts';
import type { Rotation } from '../core/panorama/camera.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import type { Task } from '../core/progress.ts';
import type { PlaneParams, Reads } from './rebuild/rebuildSchema.ts';

/** A picture's longer side where it is looked at as a whole; up to twice as long. */
export const LOOK_PX = 300;

/** Finished pixels for one rectangle of the photo. */
export interface Patch {
  rect: Rect;
  image: RasterImage;
}

export interface StepResult {
  /** To be written over the picture in this order; nothing else changes. */
  patches: Patch[];
  /** Signs of quality found without the truth; lower is better. Takes are ordered by it. */
  rank: number;
  /** How a rebuilt place came about; absent where nothing was rebuilt. */
  report?: RebuildReport;
  /** Milliseconds by stage. */
  timings: Record<string, number>;
}

/** What is told of a rebuilt place, in photo coordinates. */
export interface RebuildReport {
  /** The planes that were found or given; takes that rebuild along planes used them. */
  planes: PlaneParams[];
  /** Where new pixels were copied from: squares of `side` px from (x, y) on, row by row, 1 = used. */
  used: { x: number; y: number; side: number; width: number; height: number; cells: Uint8Array };
  /** By how many px the mark should grow to take its thing out whole; 0 = it does. */
  growthAdvisedPx: number;
  /** There was too little around the mark to rebuild it from with any variety. */
  poorSurroundings: boolean;
}

/** How a picture is carried onto another; pixels are resampled once through all carryings over. */
export interface Reshape {
  /** One after the other. */
  warps: Warp[];
  /** For a sphere, instead of warps: how its directions are turned. */
  turn?: Rotation;
  size: Size;
}

/** Keeps intermediate results that a change of later parameters leaves valid. */
export interface Memo {
  get(key: string): unknown;
  set(key: string, value: unknown, bytes: number): void;
}

export interface ApplyInput<Params> {
  params: Params;
  photo: Size;
  /** The size ahead of the carrying over, where there is one. */
  before?: Size | undefined;
  /** The picture under each rectangle of `regions`, in that order. */
  regions: Patch[];
  /** Names the pixels that `regions` were cut from. */
  inputKey: string;
  memo: Memo;
  kernels: Kernels;
}

/**
 * One kind of step. All that it reads of the picture lies in `regions`; all that it changes lies in its patches.
 * A kind is one folder and one line in the catalogue.
 */
export interface Operation<Params = unknown> {
  type: string;
  version: number;
  /** What the user chooses: one verb. */
  title: string;
  schema: z.ZodType<Params>;
  /** The ways in which its takes differ, the best on average first. */
  strategies: readonly string[];
  /** Those that first read the same of a place: one worker makes their takes and remembers it. */
  readTogether?: readonly string[];
  /** What was done, in a few words. */
  summarize(params: Params): string;
  /**
   * How the picture is carried over before anything else, for kinds that change its frame. `photo` of `regions` and
   * `apply` is then the new size. Throws `out-of-range` for a frame that is too large.
   */
  reshape?(params: Params, photo: Size): Reshape;
  /**
   * The same for kinds whose carrying over depends on what the picture shows: `look` is the picture reduced until its
   * longer side is under twice LOOK_PX.
   */
  reshapeBy?(params: Params, photo: Size, look: RasterImage, kernels: Kernels): Task<Reshape>;
  /** What `apply` looks at; `before` is the size ahead of the carrying over. Without any region nothing is computed, and all takes are one. */
  regions(params: Params, photo: Size, before?: Size): Rect[];
  /** Which picture the first region shows, if not the one as it stands. */
  readsFrom?(params: Params): Reads;
  apply(input: ApplyInput<Params>): Task<StepResult>;
}
