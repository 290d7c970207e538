import type { Size } from '../../../../core/image/rect.ts';
import type { Mark } from '../../../../operations/marks/markSchema.ts';
import { markFrame } from '../../../../operations/marks/renderMark.ts';
import type { DeskView } from '../../../desk/deskView.ts';

/**
 * Where a mark is taken hold of, as closed rings in photo px: within its outline, or anywhere in its frame while that
 * is still being traced, so that a hand that is quick does not draw a new mark instead.
 */
export function handRings(mark: Mark, seen: Pick<DeskView, 'outline' | 'outlined'>, photo: Size): number[][] {
  if (seen.outline && seen.outlined === mark) return seen.outline.solid;
  const { x, y, width, height } = markFrame(mark, photo);
  return [[x, y, x + width, y, x + width, y + height, x, y + height]];
}
