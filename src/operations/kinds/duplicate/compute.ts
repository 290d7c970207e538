import { FingoError } from '../../../core/errors.ts';
import { createRandom } from '../../../core/numeric/random.ts';
import { withoutPreviews, within, type Task } from '../../../core/progress.ts';
import type { ApplyInput, Computation, StepResult } from '../../computation.ts';
import { placeMarked } from '../../rebuild/placeMarked.ts';
import { rebuildKey, rebuildMarked } from '../../rebuild/rebuildMarked.ts';
import { REBUILD_STRATEGIES } from '../../rebuild/rebuildRegion.ts';
import type { PlacingParams, TakeSpec } from '../../rebuild/rebuildSchema.ts';
import { PLACING_STRATEGIES } from './strategies.ts';

function variantOf(take: TakeSpec): { closenessShift: number; generosity: number } {
  const strategy = PLACING_STRATEGIES.find((candidate) => candidate.name === take.strategy);
  if (!strategy) {
    const names = PLACING_STRATEGIES.map((candidate) => candidate.name).join(', ');
    throw new FingoError('invalid-recipe', `"${take.strategy}" is not a way of placing; use ${names}.`);
  }
  // The first round (seed 1) is as the list says; later rounds wander around it.
  if (take.seed === 1) return strategy;
  const random = createRandom(take.seed);
  const wander = (): number => random.below(2001) / 1000 - 1;
  return {
    closenessShift: strategy.closenessShift + 35 * wander(),
    generosity: strategy.generosity + 1.2 * wander(),
  };
}

/** In levels: an outline drawn in or out is wrong more often than the one found. */
const RANK_PER_GENEROSITY = 5;

/** The shadow is measured against one rebuild of the old place, the same for every take. */
const SHADOW_TAKE: TakeSpec = { strategy: REBUILD_STRATEGIES[1]!, seed: 1 };

function* apply({ params, photo, regions, inputKey, memo, kernels }: ApplyInput<PlacingParams>): Task<StepResult> {
  const [source, landing] = [regions[0]!, regions[1]!];
  const { closenessShift, generosity } = variantOf(params.take);
  const forShadow = { ...params, take: SHADOW_TAKE, closeness: 50 };
  const fill = params.withShadow
    ? yield* withoutPreviews(within(rebuildMarked(forShadow, photo, source, inputKey, memo, kernels), 0, 0.8))
    : undefined;
  yield { stage: 'Placing the subject', share: 0.8 };
  const start = performance.now();
  const closeness = Math.max(0, Math.min(100, params.closeness + closenessShift));
  const placed = placeMarked(
    { ...params, closeness },
    photo,
    source,
    fill && { fill, key: rebuildKey(forShadow, source.rect, inputKey) },
    landing,
    generosity,
    inputKey,
    memo,
    kernels,
  );
  return {
    patches: [{ rect: placed.rect, image: placed.image }],
    rank: placed.rimCost + RANK_PER_GENEROSITY * Math.abs(generosity),
    timings: { ...fill?.timings, place: performance.now() - start },
  };
}

export const computation: Computation<PlacingParams> = { apply };
