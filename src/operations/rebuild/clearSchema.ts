import { z } from 'zod';
import { rebuildLight, rebuildShape } from './rebuildSchema.ts';

export const clearSchema = z.object({ ...rebuildShape, light: rebuildLight });

export type ClearParams = z.infer<typeof clearSchema>;
