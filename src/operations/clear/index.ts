import { clearingOperation } from './clearingOperation.ts';

/** Takes the marked thing out and rebuilds what was behind it. */
export const clearOperation = clearingOperation('clear', 'Clear', 'Cleared');
