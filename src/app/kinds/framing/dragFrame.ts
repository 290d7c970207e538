import type { Rect } from '../../../core/image/rect.ts';
import type { Point } from '../../features/bench/photo/viewport.ts';
import type { Gesture } from '../../features/bench/gestures/gesture.ts';

/** The part of a frame that is taken hold of: an edge, a corner, or (0, 0) the whole. */
export interface FrameGrip {
  x: -1 | 0 | 1;
  y: -1 | 0 | 1;
}

export interface FrameDragging {
  /** Kept while a side or corner is dragged. */
  ratio: number | undefined;
  /** Where edges come to rest when they are near. */
  stops: { x: readonly number[]; y: readonly number[] };
  nearPx: number;
}

/**
 * Drags a frame, or a side or corner of it. Held Shift takes the opposite side along, held Alt leaves the stops out of
 * account.
 */
export function dragFrame(
  from: Rect,
  grip: FrameGrip,
  at: Point,
  { ratio, stops, nearPx }: FrameDragging,
  toChange: (rect: Rect) => object,
  onDone: (change: object) => void,
): Gesture {
  let rect: Rect | undefined;
  const rested = (value: number, axis: 'x' | 'y', free: boolean): number => {
    const nearest = stops[axis].reduce((a, b) => (Math.abs(b - value) < Math.abs(a - value) ? b : a), Infinity);
    return Math.round(!free && Math.abs(nearest - value) <= nearPx ? nearest : value);
  };
  return {
    move(point, held) {
      const free = held?.alt ?? false;
      const both = held?.shift ?? false;
      const along = (axis: 'x' | 'y', size: 'width' | 'height'): [number, number] => {
        const [low, high, by] = [from[axis], from[axis] + from[size], point[axis] - at[axis]];
        if (grip.x === 0 && grip.y === 0) {
          const [a, b] = [rested(low + by, axis, free), rested(high + by, axis, free)];
          const start = a === Math.round(low + by) ? b - from[size] : a;
          return [start, start + from[size]];
        }
        if (grip[axis] === 0) return [low, high];
        const edge = rested((grip[axis] < 0 ? low : high) + by, axis, free);
        const other = both ? low + high - edge : grip[axis] < 0 ? high : low;
        return edge < other ? [edge, Math.max(edge + 1, other)] : [Math.min(edge - 1, other), edge];
      };
      const [left, right] = along('x', 'width');
      const [top, bottom] = along('y', 'height');
      rect = { x: left, y: top, width: right - left, height: bottom - top };
      if (ratio && (grip.x !== 0 || grip.y !== 0)) rect = keepRatio(rect, from, grip, both, ratio);
    },
    end: () => rect && onDone(toChange(rect)),
    cancel: () => undefined,
    live: () => rect && { kind: 'change', change: toChange(rect) },
  };
}

/** The frame brought to its ratio again: by the dragged side, the other direction growing evenly; or from a corner. */
function keepRatio(rect: Rect, from: Rect, grip: FrameGrip, both: boolean, ratio: number): Rect {
  const byWidth = grip.x !== 0 && (grip.y === 0 || rect.width / rect.height > ratio);
  const width = byWidth ? rect.width : Math.max(1, Math.round(rect.height * ratio));
  const height = byWidth ? Math.max(1, Math.round(rect.width / ratio)) : rect.height;
  const place = (side: -1 | 0 | 1, low: number, length: number, next: number): number => {
    if (side === 0 || both) return Math.round(low + (length - next) / 2);
    return side < 0 ? low + length - next : low;
  };
  const x = grip.x === 0 ? place(0, from.x, from.width, width) : place(grip.x, rect.x, rect.width, width);
  const y = grip.y === 0 ? place(0, from.y, from.height, height) : place(grip.y, rect.y, rect.height, height);
  return { x, y, width, height };
}
