import { cropImage, pasteImage } from '../../core/image/rasterImage.ts';
import { translate } from '../../core/image/rect.ts';
import { within, type Task } from '../../core/progress.ts';
import { describePlacement } from '../rebuild/describePlacement.ts';
import type { ApplyInput, Operation, StepResult } from '../operation.ts';
import { landingRegion, placeMarked } from '../rebuild/placeMarked.ts';
import {
  REBUILD_STRATEGIES,
  STRATEGIES_BY_PLANES,
  rebuildKey,
  rebuildMarked,
  rebuildRegion,
  reportOf,
} from '../rebuild/rebuildMarked.ts';
import { placingSchema, type PlacingParams } from '../rebuild/rebuildSchema.ts';

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

/** Puts the marked subject elsewhere and rebuilds its old place. */
export const moveOperation: Operation<PlacingParams> = {
  type: 'move',
  version: 1,
  title: 'Move',
  schema: placingSchema,
  strategies: REBUILD_STRATEGIES,
  readTogether: STRATEGIES_BY_PLANES,
  summarize: ({ placement }) => `Moved ${describePlacement(placement)}`,
  regions: (params, photo) => [rebuildRegion(params, photo), landingRegion(params, photo)],
  apply,
};
