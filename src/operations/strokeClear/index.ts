import { clearingOperation } from '../clear/clearingOperation.ts';

/** Clears what one stroke of the brush went over, as soon as it is released. */
export const strokeClearOperation = clearingOperation('strokeClear', 'Stroke-clear', 'Stroked away');
