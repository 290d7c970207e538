import type { Rect } from '../image/rect.ts';
import type { Sources } from './sources.ts';

/** What is drawn of a hole before the rest of it is filled. */
export interface Drawn {
  /** Picture size: not 0 where it is drawn. */
  pixelsOf: Uint8Array<ArrayBuffer>;
  pixels: number;
  box: Rect;
  sources: Sources;
  /** Whether it is a thing of its own, whose tone what lies beside it says nothing of. */
  isThing: boolean;
}
