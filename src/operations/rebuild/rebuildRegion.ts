import { FingoError } from '../../core/errors.ts';
import { planFillRegion } from '../../core/fill/planRegion.ts';
import { FILL_STRATEGIES } from '../../core/fill/strategy.ts';
import type { Rect, Size } from '../../core/image/rect.ts';
import { markFrame } from '../marks/renderMark.ts';
import type { Mark } from '../marks/markSchema.ts';

/** The part of the photo that rebuilding this mark reads and changes. */
export function rebuildRegion(params: { mark: Mark; donors?: Mark | undefined }, photo: Size): Rect {
  const frame = markFrame(params.mark, photo);
  if (frame.width === 0 || frame.height === 0) {
    throw new FingoError('nothing-marked', 'Nothing is marked inside the picture; draw around what should change.');
  }
  const donorFrame = params.donors && markFrame(params.donors, photo);
  if (donorFrame && (donorFrame.width === 0 || donorFrame.height === 0)) {
    throw new FingoError('no-donors', 'The donor area is empty; paint where new pixels may come from.');
  }
  return planFillRegion(frame, photo, donorFrame);
}

export const REBUILD_STRATEGIES: readonly string[] = FILL_STRATEGIES.map((strategy) => strategy.name);

/** Those of them that look for a place's planes, which takes about as long as a take. */
export const STRATEGIES_BY_PLANES: readonly string[] = FILL_STRATEGIES.filter(({ planes }) => planes).map(
  ({ name }) => name,
);
