import { cropImage, pasteImage } from '../../../core/image/rasterImage.ts';
import { translate } from '../../../core/image/rect.ts';
import { within, type Task } from '../../../core/progress.ts';
import type { ApplyInput, Computation, StepResult } from '../../computation.ts';
import { placeMarked } from '../../rebuild/placeMarked.ts';
import { rebuildKey, rebuildMarked, reportOf } from '../../rebuild/rebuildMarked.ts';
import type { PlacingParams } from '../../rebuild/rebuildSchema.ts';

function* apply({ params, photo, regions, inputKey, memo, kernels }: ApplyInput<PlacingParams>): Task<StepResult> {
  const [source, landing] = [regions[0]!, regions[1]!];
  const fill = yield* within(rebuildMarked(params, photo, source, inputKey, memo, kernels), 0, 0.85);
  yield { stage: 'Placing the subject', share: 0.85 };
  const start = performance.now();
  const oldPlace = { rect: translate(fill.box, source.rect.x, source.rect.y), image: fill.image };
  const destination = { rect: landing.rect, image: cropImage(landing.image, { ...landing.rect, x: 0, y: 0 }) };
  pasteImage(
    destination.image,
    { x: oldPlace.rect.x - landing.rect.x, y: oldPlace.rect.y - landing.rect.y },
    oldPlace.image,
  );
  const cleared = { fill, key: rebuildKey(params, source.rect, inputKey) };
  const placed = placeMarked(params, photo, source, cleared, destination, 0, inputKey, memo, kernels);
  return {
    patches: [oldPlace, { rect: placed.rect, image: placed.image }],
    report: reportOf(fill, source.rect),
    rank: fill.rank + RANK_PER_RIM_LEVEL * placed.rimCost,
    timings: { ...fill.timings, place: performance.now() - start },
  };
}

/** Fits of old places differ by some tenths, steps at the new place's rim by some levels: they weigh alike. */
const RANK_PER_RIM_LEVEL = 0.04;

export const computation: Computation<PlacingParams> = { apply };
