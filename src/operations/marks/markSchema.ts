import { z } from 'zod';

/** Coordinates of photo points, x0, y0, x1, y1, ...; a shape may run past the photo's edges. */
const points = z
  .array(z.number().min(-1e5).max(1e5))
  .min(2)
  .max(200_000)
  .refine((list) => list.length % 2 === 0, 'Points come in pairs of x and y.');

const combine = z.enum(['startOver', 'also', 'without', 'onlyBoth']);

const lasso = z.object({ kind: z.literal('lasso'), combine, points });

const stroke = z.object({
  kind: z.literal('stroke'),
  combine,
  points,
  radiusPx: z.number().min(0.5).max(4000),
  hardness: z.number().min(0).max(1),
  intensity: z.number().min(0).max(1),
});

/** Coverage bytes of a rectangle, raw DEFLATE, base64. */
const raster = z.object({
  kind: z.literal('raster'),
  combine,
  x: z.int().min(-1e5).max(1e5),
  y: z.int().min(-1e5).max(1e5),
  width: z.int().min(1).max(20_000),
  height: z.int().min(1).max(20_000),
  deflated: z.base64(),
  /** What it was found to be: a subject's own outline, or the shadow of one. */
  found: z.enum(['subject', 'shadow']).optional(),
});

export const shapeSchema = z.discriminatedUnion('kind', [lasso, stroke, raster]);

/** A mark as it was made: shapes in their order, then the whole turned over, grown
 * (or shrunk), smoothed, reduced to a band and feathered. */
export const markSchema = z.object({
  shapes: z.array(shapeSchema).max(2000),
  growPx: z.number().min(-400).max(400).default(0),
  smoothPx: z.number().min(0).max(200).default(0),
  featherPx: z.number().min(0).max(200).default(0),
  /** Only a band along the outline, so many px inside and outside it. */
  bandPx: z.number().min(0).max(200).optional(),
  /** Everything but what the shapes mark. */
  inverted: z.boolean().optional(),
});

export type MarkShape = z.infer<typeof shapeSchema>;
export type Mark = z.infer<typeof markSchema>;

export const EMPTY_MARK: Mark = { shapes: [], growPx: 0, smoothPx: 0, featherPx: 0 };
