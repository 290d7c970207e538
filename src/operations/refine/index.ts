import { REBUILD_STRATEGIES } from '../rebuild/rebuildMarked.ts';
import { clearingOperation } from '../clear/clearingOperation.ts';

/** Makes a part of what was rebuilt before anew. */
export const refineOperation = clearingOperation('refine', 'Refine', 'Refined', REBUILD_STRATEGIES);
