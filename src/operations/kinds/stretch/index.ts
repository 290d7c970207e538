import { carriedOnly } from '../../carriedOnly.ts';
import { followMarks } from '../../followMarks.ts';
import { defineKind } from '../../kind.ts';
import { stretchSchema } from './schema.ts';

const ownSchema = stretchSchema.pick({ width: true, height: true, part: true });

/** Room gained or given up along the picture's least noticeable paths; what is kept stays in shape. */
export const stretch = defineKind({
  ...carriedOnly,
  type: 'stretch',
  version: 1,
  title: 'Stretch',
  schema: stretchSchema,
  summarize: ({ width, height }) => `Stretched to ${width} x ${height} px`,
  reshapesByLook: true,
  resized: ({ width, height }) => ({ width, height }),
  // Its size was meant for the picture as it was; only where that lies elsewhere is it still the same.
  follow: (params, by) => (by.shift ? followMarks(params, by) : undefined),
  draft: {
    job: 'frame',
    isOffered: true,
    schema: ownSchema,
    begin: ({ width, height }) => ownSchema.parse({ width, height }),
    toParams: ({ protect }, own) => ({ ...own, ...(protect && { keep: protect }) }),
    toDraft: ({ keep, width, height, part }) => ({
      common: keep ? { protect: keep } : {},
      own: { width, height, part },
    }),
    fromFlat: ({ stretch: own }) => own,
    missing: (_draft, { width, height }, photo) =>
      width === photo.width && height === photo.height ? 'Drag an edge of the picture, or give a size.' : undefined,
    isPlain: () => true,
    shapeKey: ({ protect }, own) => JSON.stringify([own, protect]),
    showsAtOnce: true,
    remakesTakes: false,
  },
});
