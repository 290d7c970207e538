import { FingoError } from '../errors.ts';
import type { Rect } from '../image/rect.ts';

/** Throws `nothing-marked` for the bounds of an empty mark. */
export function requireMarked({ width }: Rect): void {
  if (width === 0) throw new FingoError('nothing-marked', 'Nothing is marked; draw around what should change.');
}
