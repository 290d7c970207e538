import { z } from 'zod';
import { scaling } from '../../core/geometry/warp.ts';
import { carriedOnly } from '../carriedOnly.ts';
import type { Operation } from '../operation.ts';
import { takeSchema } from '../rebuild/rebuildSchema.ts';
import { requireUsableSize } from '../requireUsableSize.ts';

const side = z.int().min(1).max(30_000);

const enlargeSchema = z.object({ width: side, height: side, take: takeSchema });

type EnlargeParams = z.infer<typeof enlargeSchema>;

/** The whole picture at another size, where its pixels fall short of what is wanted. */
export const enlargeOperation: Operation<EnlargeParams> = {
  ...carriedOnly,
  type: 'enlarge',
  version: 1,
  title: 'Enlarge',
  schema: enlargeSchema,
  summarize: ({ width, height }) => `Enlarged to ${width} x ${height} px`,
  reshape({ width, height }, photo) {
    requireUsableSize({ width, height }, photo);
    return { warps: [scaling(photo, { width, height })], size: { width, height } };
  },
};
