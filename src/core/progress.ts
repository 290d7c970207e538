import type { RasterImage } from './image/rasterImage.ts';
import { translate, type Rect } from './image/rect.ts';

/** A coarse first look at a result: `image` stretched over `rect` of the photo shows what is coming. */
export interface Preview {
  rect: Rect;
  image: RasterImage;
}

/** One report of a long computation. `share` runs from 0 to 1 within the whole computation. */
export interface Progress {
  stage: string;
  share: number;
  preview?: Preview;
}

/** A long computation: yields progress, returns its result. Stop it by no longer asking for more. */
export type Task<Result> = Generator<Progress, Result, void>;

/** Runs a task to its end, handing each report to `onProgress`. */
export function drain<Result>(task: Task<Result>, onProgress?: (progress: Progress) => void): Result {
  for (;;) {
    const step = task.next();
    if (step.done) return step.value;
    onProgress?.(step.value);
  }
}

/** Runs `task` as a part of a longer one: its shares are mapped to [from, to]. */
export function* within<Result>(task: Task<Result>, from: number, to: number): Task<Result> {
  for (;;) {
    const step = task.next();
    if (step.done) return step.value;
    yield { ...step.value, share: from + (to - from) * step.value.share };
  }
}

/** Runs `task` without its previews, where they would show something else than what comes. */
export function* withoutPreviews<Result>(task: Task<Result>): Task<Result> {
  for (;;) {
    const step = task.next();
    if (step.done) return step.value;
    yield { stage: step.value.stage, share: step.value.share };
  }
}

/** Runs `task`, moving its previews from coordinates of a region to those of what it is a region of. */
export function* translatedPreviews<Result>(task: Task<Result>, region: Pick<Rect, 'x' | 'y'>): Task<Result> {
  for (;;) {
    const step = task.next();
    if (step.done) return step.value;
    const { preview, ...progress } = step.value;
    yield preview
      ? { ...progress, preview: { ...preview, rect: translate(preview.rect, region.x, region.y) } }
      : progress;
  }
}
