import { nothingComputed } from '../../carriedOnly.ts';
import type { Computation } from '../../computation.ts';
import { findStretch } from './findStretch.ts';
import type { StretchParams } from './schema.ts';

export const computation: Computation<StretchParams> = {
  ...nothingComputed,
  *reshapeBy(params, photo, look, kernels) {
    const { width, height } = params;
    return { warps: yield* findStretch(params, photo, look, kernels), size: { width, height } };
  },
};
