import { inLight } from '../../core/fill/fill.ts';
import { translate } from '../../core/image/rect.ts';
import type { Task } from '../../core/progress.ts';
import type { ApplyInput, Operation, StepResult } from '../operation.ts';
import { rebuildMarked, rebuildRegion, reportOf, STRATEGIES_BY_PLANES } from '../rebuild/rebuildMarked.ts';
import { clearSchema, type ClearParams } from './schema.ts';

function* apply({ params, photo, regions, inputKey, memo, kernels }: ApplyInput<ClearParams>): Task<StepResult> {
  const region = regions[0]!;
  const fill = yield* rebuildMarked(params, photo, region, inputKey, memo, kernels);
  return {
    patches: [{ rect: translate(fill.box, region.rect.x, region.rect.y), image: inLight(fill, params.light / 100) }],
    rank: fill.rank,
    report: reportOf(fill, region.rect),
    timings: fill.timings,
  };
}

/** A kind of step that rebuilds what is marked from around it. */
export const clearingOperation = (
  type: string,
  title: string,
  summary: string,
  strategies: readonly string[],
): Operation<ClearParams> => ({
  type,
  version: 1,
  title,
  schema: clearSchema,
  strategies,
  readTogether: STRATEGIES_BY_PLANES,
  summarize: () => summary,
  regions: (params, photo) => [rebuildRegion(params, photo)],
  apply,
});
