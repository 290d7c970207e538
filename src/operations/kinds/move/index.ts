import { defineKind } from '../../kind.ts';
import { describePlacement } from '../../rebuild/describePlacement.ts';
import { placingKind } from '../../rebuild/placingKind.ts';
import { REBUILD_STRATEGIES, STRATEGIES_BY_PLANES } from '../../rebuild/rebuildRegion.ts';
import { placingSchema } from '../../rebuild/rebuildSchema.ts';

/** Puts the marked subject elsewhere and rebuilds its old place. */
export const move = defineKind({
  ...placingKind(false, describePlacement),
  type: 'move',
  version: 1,
  title: 'Move',
  schema: placingSchema,
  strategies: REBUILD_STRATEGIES,
  readTogether: STRATEGIES_BY_PLANES,
  summarize: ({ placement }) => `Moved ${describePlacement(placement)}`,
});
