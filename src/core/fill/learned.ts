import type { PlaneCorners } from '../planes/findPlanes.ts';
import type { Drawn } from './drawn.ts';

/** What is read from a mark and its surroundings whichever way it is rebuilt. */
export interface Learned {
  planes?: readonly PlaneCorners[];
  growthAdvised?: number;
  /** What runs on through the hole, once it was looked for. */
  lines?: { drawn: Drawn | undefined };
  /** What is drawn of it by what it repeats of its surroundings, once that was looked for. */
  lattice?: { drawn: Drawn | undefined };
}
