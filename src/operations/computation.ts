import type { Warp } from '../core/geometry/warp.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Rect, Size } from '../core/image/rect.ts';
import type { Rotation } from '../core/panorama/camera.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import type { Task } from '../core/progress.ts';
import type { PlaneParams, RunOnParams } from './rebuild/rebuildSchema.ts';

/** A picture's longer side where it is looked at as a whole; up to twice as long. */
export const LOOK_PX = 300;

/** Pixels for one rectangle of the photo: they replace what is there, or, part of a layer, lie over it. */
export interface Patch {
  rect: Rect;
  image: RasterImage;
  /** Lies over what is beneath by its coverage (alpha), so strongly, 0..1. */
  over?: number;
}

export interface StepResult {
  /** To be put onto the picture in this order; nothing else changes. Of kinds that make a layer: where it was made. */
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
  /** The lines that were found to run on, or set to. */
  lines: RunOnParams[];
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

/** How a kind of step is computed; loaded by workers and the command line only. */
export interface Computation<Params = unknown> {
  /**
   * How the picture is carried over, for kinds where that depends on what it shows: `look` is the picture reduced until
   * its longer side is under twice LOOK_PX.
   */
  reshapeBy?(params: Params, photo: Size, look: RasterImage, kernels: Kernels): Task<Reshape>;
  /** All that it reads of the picture lies in `regions`; all that it changes lies in its patches. */
  apply(input: ApplyInput<Params>): Task<StepResult>;
}
