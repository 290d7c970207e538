import type { PlaneCorners } from '../planes/findPlanes.ts';
import type { DrawnLines } from '../lines/runOnLines.ts';

/** What is read from a mark and its surroundings whichever way it is rebuilt. */
export interface Learned {
  planes?: readonly PlaneCorners[];
  growthAdvised?: number;
  /** What runs on through the hole, once it was looked for. */
  lines?: { drawn: DrawnLines | undefined };
}
