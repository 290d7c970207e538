import { z } from 'zod';
import { rebuildLight, rebuildShape, shiftSchema } from '../../rebuild/rebuildSchema.ts';

export const borrowSchema = z.object({
  ...rebuildShape,
  light: rebuildLight,
  /** From where: so many px from the mark. */
  from: shiftSchema,
});

export type BorrowParams = z.infer<typeof borrowSchema>;
