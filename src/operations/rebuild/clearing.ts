import { inLight } from '../../core/fill/mixIntoPhoto.ts';
import { translate } from '../../core/image/rect.ts';
import type { Computation } from '../computation.ts';
import type { ClearParams } from './clearSchema.ts';
import { rebuildMarked, reportOf } from './rebuildMarked.ts';

/** What kinds of steps have in common that rebuild what is marked from around it. */
export const clearing: Computation<ClearParams> = {
  *apply({ params, photo, regions, inputKey, memo, kernels }) {
    const region = regions[0]!;
    const fill = yield* rebuildMarked(params, photo, region, inputKey, memo, kernels);
    return {
      patches: [{ rect: translate(fill.box, region.rect.x, region.rect.y), image: inLight(fill, params.light / 100) }],
      rank: fill.rank,
      report: reportOf(fill, region.rect),
      timings: fill.timings,
    };
  },
};
