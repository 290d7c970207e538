import { z } from 'zod';
import { rebuildShape, shiftSchema } from '../../rebuild/rebuildSchema.ts';

export const lengthenSchema = z.object({
  ...rebuildShape,
  /** Where the marked end is pulled to: so many px on. */
  by: shiftSchema,
});

export type LengthenParams = z.infer<typeof lengthenSchema>;
