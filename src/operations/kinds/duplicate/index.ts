import { defineKind } from '../../kind.ts';
import { describePlacement } from '../../rebuild/describePlacement.ts';
import { placingKind } from '../../rebuild/placingKind.ts';
import { placingSchema } from '../../rebuild/rebuildSchema.ts';
import { PLACING_STRATEGIES } from './strategies.ts';

/** Puts a second one of the marked subject elsewhere. */
export const duplicate = defineKind({
  ...placingKind(true, describePlacement),
  type: 'duplicate',
  version: 1,
  title: 'Duplicate',
  schema: placingSchema,
  strategies: PLACING_STRATEGIES.map((strategy) => strategy.name),
  summarize: ({ placement }) => `Duplicated ${describePlacement(placement)}`,
  readsFrom: ({ reads }) => reads,
});
