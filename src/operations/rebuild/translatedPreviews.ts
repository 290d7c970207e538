import { translate, type Rect } from '../../core/image/rect.ts';
import type { Task } from '../../core/progress.ts';

/** Runs `task`, moving its previews from region to photo coordinates. */
export function* translatedPreviews<Result>(task: Task<Result>, region: Rect): Task<Result> {
  for (;;) {
    const step = task.next();
    if (step.done) return step.value;
    const { preview, ...progress } = step.value;
    yield preview
      ? { ...progress, preview: { ...preview, rect: translate(preview.rect, region.x, region.y) } }
      : progress;
  }
}
