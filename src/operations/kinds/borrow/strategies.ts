import { REBUILD_STRATEGIES } from '../../rebuild/rebuildRegion.ts';

/** Covers the mark with the other place as it lies. */
export const AS_IT_LIES = 'as it lies';
/** Covers it with what near there goes on best with what lies around the mark, a little shifted, sized or turned. */
export const FITTED_IN = 'fitted in';
/** Rebuilds the mark with donors in a wider or narrower area around the other place: its size against the mark's. */
export const FOLLOWING: Readonly<Record<string, { reach: number; strategy: string }>> = {
  'pieces from there': { reach: 0.12, strategy: REBUILD_STRATEGIES[0]! },
  'fine pieces from there': { reach: 0.25, strategy: 'fine pieces' },
  'pieces from around there': { reach: 0.6, strategy: 'by colour and form' },
};

export const BORROW_STRATEGIES: readonly string[] = [AS_IT_LIES, FITTED_IN, ...Object.keys(FOLLOWING)];
