import { z } from 'zod';
import { rebuildShape } from '../rebuild/rebuildSchema.ts';

const shift = z.number().min(-1e5).max(1e5);

export const lengthenSchema = z.object({
  ...rebuildShape,
  /** Where the marked end is pulled to: so many px on. */
  by: z.object({ dxPx: shift, dyPx: shift }),
});

export type LengthenParams = z.infer<typeof lengthenSchema>;
