import { FingoError } from '../../core/errors.ts';
import { createRandom } from '../../core/numeric/random.ts';
import { withoutPreviews, within, type Task } from '../../core/progress.ts';
import { describePlacement } from '../rebuild/describePlacement.ts';
import type { ApplyInput, Operation, StepResult } from '../operation.ts';
import { landingRegion, placeMarked } from '../rebuild/placeMarked.ts';
import { REBUILD_STRATEGIES, rebuildKey, rebuildMarked, rebuildRegion } from '../rebuild/rebuildMarked.ts';
import { placingSchema, type PlacingParams, type TakeSpec } from '../rebuild/rebuildSchema.ts';

/** The old place stays as it is, so takes differ in how much of it comes along and in what counts as the subject. */
interface PlacingStrategy {
  name: string;
  closenessShift: number;
  generosity: number;
}

const PLACING_STRATEGIES: readonly PlacingStrategy[] = [
  { name: 'as set', closenessShift: 0, generosity: 0 },
  { name: 'subject only', closenessShift: -100, generosity: 0 },
  { name: 'with its ground', closenessShift: 40, generosity: 0 },
  { name: 'generous outline', closenessShift: -100, generosity: 1 },
  { name: 'strict outline', closenessShift: -25, generosity: -1 },
];

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

/** Puts a second one of the marked subject elsewhere. */
export const duplicateOperation: Operation<PlacingParams> = {
  type: 'duplicate',
  version: 1,
  title: 'Duplicate',
  schema: placingSchema,
  strategies: PLACING_STRATEGIES.map((strategy) => strategy.name),
  summarize: ({ placement }) => `Duplicated ${describePlacement(placement)}`,
  regions: (params, photo) => [rebuildRegion(params, photo), landingRegion(params, photo)],
  readsFrom: ({ reads }) => reads,
  apply,
};
