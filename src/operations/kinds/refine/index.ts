import { clearingKind } from '../../rebuild/clearingKind.ts';
import { REBUILD_STRATEGIES } from '../../rebuild/rebuildRegion.ts';

/** Makes a part of what was rebuilt before anew. */
export const refine = clearingKind('refine', REBUILD_STRATEGIES, {
  title: 'Refine',
  summary: 'Refined',
  isOffered: false,
});
