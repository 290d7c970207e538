import { z } from 'zod';
import { rebuildLight, rebuildShape } from '../rebuild/rebuildSchema.ts';

const shift = z.number().min(-1e5).max(1e5);

export const borrowSchema = z.object({
  ...rebuildShape,
  light: rebuildLight,
  /** From where: so many px from the mark. */
  from: z.object({ dxPx: shift, dyPx: shift }),
});

export type BorrowParams = z.infer<typeof borrowSchema>;
