import { z } from 'zod';
import type { Quad } from '../../../core/geometry/insetQuad.ts';
import { scaling } from '../../../core/geometry/warp.ts';
import { carriedOnly } from '../../carriedOnly.ts';
import { defineKind } from '../../kind.ts';
import { takeSchema } from '../../rebuild/rebuildSchema.ts';
import { requireUsableSize } from '../../requireUsableSize.ts';

const side = z.int().min(1).max(30_000);

const ownSchema = z.object({ width: side, height: side });

/** The whole picture at another size, where its pixels fall short of what is wanted. */
export const enlarge = defineKind({
  ...carriedOnly,
  type: 'enlarge',
  version: 1,
  title: 'Enlarge',
  schema: z.object({ ...ownSchema.shape, take: takeSchema }),
  summarize: ({ width, height }) => `Enlarged to ${width} x ${height} px`,
  reshape({ width, height }, photo) {
    requireUsableSize({ width, height }, photo);
    return { warps: [scaling(photo, { width, height })], size: { width, height } };
  },
  photoInside: ({ width, height }, photo, inside) =>
    inside &&
    (inside.map(({ x, y }) => ({ x: (x * width) / photo.width, y: (y * height) / photo.height })) as unknown as Quad),
  // The size is what was wanted, whatever the picture was before.
  follow: (params) => params,
  draft: {
    job: 'frame',
    isOffered: false,
    schema: ownSchema,
    begin: ({ width, height }) => ({ width, height }),
    toParams: (_draft, own) => own,
    toDraft: ({ width, height }) => ({ common: {}, own: { width, height } }),
    missing: (_draft, { width, height }, photo) =>
      width === photo.width && height === photo.height ? 'Give another width or height.' : undefined,
    isPlain: () => true,
    shapeKey: (_draft, own) => JSON.stringify(own),
    showsAtOnce: true,
    remakesTakes: false,
  },
});
