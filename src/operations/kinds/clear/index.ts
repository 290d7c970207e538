import { clearingKind } from '../../rebuild/clearingKind.ts';
import { REBUILD_STRATEGIES } from '../../rebuild/rebuildRegion.ts';

/** Takes the marked thing out and rebuilds what was behind it. */
export const clear = clearingKind('clear', REBUILD_STRATEGIES, {
  title: 'Clear',
  summary: 'Cleared',
  isOffered: true,
});
