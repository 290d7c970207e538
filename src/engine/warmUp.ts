import { fillRegion } from '../core/fill/fill.ts';
import { FILL_STRATEGIES, type FillStrategy } from '../core/fill/strategy.ts';
import { createImage } from '../core/image/rasterImage.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { createMask } from '../core/mask/mask.ts';
import { createRandom } from '../core/numeric/random.ts';
import type { Task } from '../core/progress.ts';

const [WIDTH, HEIGHT] = [320, 240];
const RADIUS_PX = 50;

/**
 * Rebuilds a small made-up place a few times: code that has run is compiled, and the first real take comes two to three
 * times as fast.
 */
export function* warmUp(kernels: Kernels): Task<void> {
  const image = createImage(WIDTH, HEIGHT);
  const mark = createMask(WIDTH, HEIGHT);
  const random = createRandom(1);
  for (let i = 0; i < mark.data.length; i++) {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    // Boards with grain.
    const level = 120 + (y % 24 < 3 ? -60 : 0) + random.below(30);
    image.data.set([level, level, level, 255], 4 * i);
    if ((x - WIDTH / 2) ** 2 + (y - HEIGHT / 2) ** 2 < RADIUS_PX ** 2) mark.data[i] = 255;
  }
  const [first, second] = FILL_STRATEGIES as [FillStrategy, FillStrategy];
  // What repeats is carried on through all of this place: a round that matches it comes, too.
  for (const strategy of [first, { ...first, runsOn: 'not' as const }, second]) {
    yield* fillRegion({ image, mark, strategy, seed: 1 }, kernels);
  }
}
