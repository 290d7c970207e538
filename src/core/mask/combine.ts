import { requireSameSize } from '../image/rasterImage.ts';
import type { Mask } from './mask.ts';

/** How a new shape meets what is already marked. */
export type Combine = 'startOver' | 'also' | 'without' | 'onlyBoth';

/**
 * Combines two masks of one size, pixel by pixel: `startOver` takes `b`, `also` the larger, `without` takes `b` away
 * from `a` (min(a, 255 - b)), `onlyBoth` the smaller (Zadeh's fuzzy set operations, 1965). Throws `size-mismatch`.
 */
export function combineMasks(a: Mask, b: Mask, how: Combine): Mask {
  requireSameSize(a, b, 'The second mask');
  const data = new Uint8Array(a.data.length);
  for (let i = 0; i < data.length; i++) {
    const p = a.data[i]!;
    const q = b.data[i]!;
    data[i] = how === 'startOver' ? q : how === 'also' ? Math.max(p, q) : Math.min(p, how === 'without' ? 255 - q : q);
  }
  return { width: a.width, height: a.height, data };
}
