import { carriedOnly } from '../carriedOnly.ts';
import type { Operation } from '../operation.ts';
import { findStretch } from './findStretch.ts';
import { stretchSchema, type StretchParams } from './schema.ts';

/** Room gained or given up along the picture's least noticeable paths; what is kept stays in shape. */
export const stretchOperation: Operation<StretchParams> = {
  ...carriedOnly,
  type: 'stretch',
  version: 1,
  title: 'Stretch',
  schema: stretchSchema,
  summarize: ({ width, height }) => `Stretched to ${width} x ${height} px`,
  *reshapeBy(params, photo, look, kernels) {
    const { width, height } = params;
    return { warps: yield* findStretch(params, photo, look, kernels), size: { width, height } };
  },
};
