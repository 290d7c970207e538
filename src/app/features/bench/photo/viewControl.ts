import type { Rect, Size } from '../../../../core/image/rect.ts';
import { fitView, panView, screenToPhoto, zoomView, type Point, type Viewport } from './viewport.ts';

/** The viewport with the ways of changing it; outside the store, because it changes with every wheel tick. */
export interface ViewControl {
  get(): Viewport;
  screen(): Size;
  subscribe(listener: () => void): () => void;
  /** Tells the size of the canvas in CSS px; the first call fits the photo, later ones keep its centre. */
  resize(screen: Size): void;
  fit(): void;
  /** Another extent to look at; it is fitted, unless the view has been moved and `stay` is wanted. */
  extend(extent: Rect, stay?: boolean): void;
  /** One photo pixel on one device pixel, with this photo point (or what is there) in the middle. */
  actualPixels(centre?: Point): void;
  zoomBy(factor: number, at?: Point): void;
  panBy(dx: number, dy: number): void;
}

export function createViewControl(photo: Rect): ViewControl {
  let extent = photo;
  let view: Viewport = { scale: 1, x: 0, y: 0 };
  let screen: Size = { width: 0, height: 0 };
  let fitted = false;
  const listeners = new Set<() => void>();
  const set = (next: Viewport): void => {
    view = next;
    listeners.forEach((listener) => listener());
  };
  const middle = (): Point => ({ x: screen.width / 2, y: screen.height / 2 });
  const fit = (): void => {
    fitted = true;
    set(fitView(extent, screen, devicePixelRatio));
  };
  const zoomBy = (factor: number, at = middle()): void => {
    fitted = false;
    set(zoomView(view, factor, at, extent, screen));
  };
  return {
    get: () => view,
    screen: () => screen,
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    resize(next) {
      const isFirst = screen.width === 0;
      const shift = { x: (next.width - screen.width) / 2, y: (next.height - screen.height) / 2 };
      screen = next;
      if (isFirst || fitted) fit();
      else set(panView(view, shift.x, shift.y, extent, screen));
    },
    fit,
    extend(next, stay = false) {
      extent = next;
      if (screen.width > 0 && (fitted || !stay)) fit();
    },
    actualPixels(centre = screenToPhoto(view, middle())) {
      const scale = 1 / devicePixelRatio;
      fitted = false;
      set({ scale, x: centre.x - screen.width / scale / 2, y: centre.y - screen.height / scale / 2 });
    },
    zoomBy,
    panBy(dx, dy) {
      fitted = false;
      set(panView(view, dx, dy, extent, screen));
    },
  };
}
