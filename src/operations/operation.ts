import type { z } from 'zod';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Rect, Size } from '../core/image/rect.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import type { Task } from '../core/progress.ts';

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
  /** Milliseconds by stage. */
  timings: Record<string, number>;
}

/** Keeps intermediate results that a change of later parameters leaves valid. */
export interface Memo {
  get(key: string): unknown;
  set(key: string, value: unknown, bytes: number): void;
}

export interface ApplyInput<Params> {
  params: Params;
  photo: Size;
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
  /** What was done, in a few words. */
  summarize(params: Params): string;
  regions(params: Params, photo: Size): Rect[];
  apply(input: ApplyInput<Params>): Task<StepResult>;
}
