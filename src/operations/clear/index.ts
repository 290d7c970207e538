import { REBUILD_STRATEGIES } from '../rebuild/rebuildMarked.ts';
import { clearingOperation } from './clearingOperation.ts';

/** Takes the marked thing out and rebuilds what was behind it. */
export const clearOperation = clearingOperation('clear', 'Clear', 'Cleared', REBUILD_STRATEGIES);
