import { z } from 'zod';
import { markSchema } from '../../marks/markSchema.ts';
import { takeSchema } from '../../rebuild/rebuildSchema.ts';

const side = z.int().min(16).max(30_000);

export const stretchSchema = z.object({
  /** The new size, px. */
  width: side,
  height: side,
  /** What keeps its shape. */
  keep: markSchema.optional(),
  /** The part that is stretched along each direction, as shares of the sides; the rest is only shifted. */
  part: z
    .object({
      left: z.number().min(0).max(1).default(0),
      top: z.number().min(0).max(1).default(0),
      right: z.number().min(0).max(1).default(1),
      bottom: z.number().min(0).max(1).default(1),
    })
    .default({ left: 0, top: 0, right: 1, bottom: 1 }),
  take: takeSchema,
});

export type StretchParams = z.infer<typeof stretchSchema>;
