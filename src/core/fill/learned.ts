import type { PlaneCorners } from '../planes/findPlanes.ts';
import type { Drawn } from './drawn.ts';

/** What is read from a mark and its surroundings whichever way it is rebuilt. */
export interface Learned {
  planes?: readonly PlaneCorners[];
  growthAdvised?: number;
  /** What runs on through the hole, once it was looked for. */
  lines?: { drawn: Drawn | undefined };
  /** What is drawn of it as its surroundings repeat, once that was looked for. */
  repeats?: { drawn: Drawn | undefined };
}
