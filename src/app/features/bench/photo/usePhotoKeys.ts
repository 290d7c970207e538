import { useRef, type KeyboardEvent, type RefObject } from 'react';
import type { Combine } from '../../../../core/mask/combine.ts';
import type { Size } from '../../../../core/image/rect.ts';
import { useAppDispatch } from '../../../store/store.ts';
import { benchActions, type PhotoState } from '../../../state/benchSlice.ts';
import { setsPoints, type Gesture } from '../gestures/gesture.ts';
import type { ViewControl } from './viewControl.ts';
import { screenToPhoto, type Point } from './viewport.ts';

export const ARROWS: Record<string, Point> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

interface PhotoKeysInput {
  photo: Size;
  view: ViewControl;
  bench: PhotoState;
  gesture: RefObject<Gesture | undefined>;
  begin: (at: Point, combine: Combine) => Gesture;
  schedule: () => void;
  /** Moves what is being placed by so many px; false where nothing is. */
  nudge: (direction: Point, stepPx: number) => boolean;
}

/**
 * What the keyboard does while the photo has the focus: arrows nudge the subject, or move the pen once K has brought it
 * out, or else pan; Enter puts the pen down and lifts it, or sets a point; Backspace takes that back; Escape leaves a gesture or the pen. Shift makes steps larger.
 */
export function usePhotoKeys({ photo, view, bench, gesture, begin, schedule, nudge }: PhotoKeysInput) {
  const dispatch = useAppDispatch();
  const pen = useRef<Point | undefined>(undefined);
  const spaceHeld = useRef(false);

  const onArrow = (direction: Point, large: boolean): void => {
    if (pen.current) {
      const step = (large ? 24 : 4) / view.get().scale;
      const within = (value: number, extent: number): number => Math.max(0, Math.min(extent, value));
      pen.current = {
        x: within(pen.current.x + direction.x * step, photo.width),
        y: within(pen.current.y + direction.y * step, photo.height),
      };
      gesture.current?.move(pen.current);
    } else if (!nudge(direction, large ? 20 : 1)) {
      const step = large ? -200 : -40;
      view.panBy(direction.x * step, direction.y * step);
    }
  };

  const togglePen = (): void => {
    const { width, height } = view.screen();
    pen.current = pen.current ? undefined : screenToPhoto(view.get(), { x: width / 2, y: height / 2 });
  };

  /** Enter sets the pen's next point, or closes an outline that the pointer set points of. */
  const putDownOrLift = (): void => {
    const current = gesture.current;
    if (!current) {
      if (pen.current) gesture.current = begin(pen.current, bench.combine);
      return;
    }
    if (pen.current && setsPoints(current)) {
      current.set(pen.current);
      if (current.goesOn?.()) return;
    }
    current.end();
    gesture.current = undefined;
  };

  const stepBack = (): boolean => {
    if (gesture.current) {
      gesture.current.cancel();
      gesture.current = undefined;
      return true;
    }
    if (pen.current) {
      pen.current = undefined;
      return true;
    }
    return false;
  };

  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const direction = ARROWS[event.key];
    if (direction) onArrow(direction, event.shiftKey);
    else if (event.key === ' ') spaceHeld.current = true;
    else if (event.key === 'k' || event.key === 'K') togglePen();
    else if (event.key === 'Enter') putDownOrLift();
    else if (event.key === 'Backspace' && setsPoints(gesture.current)) gesture.current.back();
    else if (event.key !== 'Escape' || !stepBack()) return;
    event.preventDefault();
    event.stopPropagation();
    schedule();
  };

  const onKeyUp = (event: KeyboardEvent): void => {
    if (event.key === ' ') spaceHeld.current = false;
    if (ARROWS[event.key]) dispatch(benchActions.gestureEnded());
  };

  return { pen, spaceHeld, onKeyDown, onKeyUp };
}
