import type { Rect, Size } from '../image/rect.ts';
import type { Point } from './homography.ts';

/**
 * A rectangle brought to a ratio (width / height), by widening it or by cutting from it. `anchor` is the point of
 * it (0 to 1 from its top left) that keeps its share of the room on both sides; the middle by default.
 */
export function withRatio(rect: Rect, ratio: number, how: 'widen' | 'cut', anchor: Point = { x: 0.5, y: 0.5 }): Rect {
  const isTooNarrow = rect.width / rect.height < ratio;
  const changesWidth = isTooNarrow === (how === 'widen');
  const width = changesWidth ? Math.max(1, Math.round(rect.height * ratio)) : rect.width;
  const height = changesWidth ? rect.height : Math.max(1, Math.round(rect.width / ratio));
  return {
    x: Math.round(rect.x + anchor.x * (rect.width - width)),
    y: Math.round(rect.y + anchor.y * (rect.height - height)),
    width,
    height,
  };
}

/** A rectangle with so many px more (or fewer, if negative) on each side; at least one px is left. */
export function withEdges(
  rect: Rect,
  { left, top, right, bottom }: { left: number; top: number; right: number; bottom: number },
): Rect {
  return {
    x: rect.x - left,
    y: rect.y - top,
    width: Math.max(1, rect.width + left + right),
    height: Math.max(1, rect.height + top + bottom),
  };
}

/**
 * A rectangle widened on one side until that share of it is new; given where a subject lies along that direction, it is
 * shifted so that the subject comes to lie on the third away from the free room.
 */
export function withRoom(rect: Rect, side: 'left' | 'top' | 'right' | 'bottom', share: number, subject?: Point): Rect {
  const isLevel = side === 'left' || side === 'right';
  const [at, size] = isLevel ? (['x', 'width'] as const) : (['y', 'height'] as const);
  const isBefore = side === 'left' || side === 'top';
  const length = Math.round(rect[size] / (1 - share));
  const start = subject
    ? Math.round(subject[at] - (length * (isBefore ? 2 : 1)) / 3)
    : rect[at] - (isBefore ? length - rect[size] : 0);
  return { ...rect, [at]: start, [size]: length };
}

/** The length in px of a print measure. */
export const printPx = (length: number, unit: 'mm' | 'inch', pixelsPerInch: number): number =>
  Math.round(length * pixelsPerInch * (unit === 'mm' ? 1 / 25.4 : 1));

/** By how much each side of `rect` must be enlarged to be `target` px; 1 or less where there are pixels enough. */
export const enlargementFor = (rect: Size, target: Size): number =>
  Math.max(target.width / rect.width, target.height / rect.height);
