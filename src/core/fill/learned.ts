import type { PlaneCorners } from '../planes/findPlanes.ts';
import type { Outlines } from '../lines/runOnLines.ts';
import type { Drawn } from './drawn.ts';

/** What is read from a mark and its surroundings whichever way it is rebuilt. */
export interface Learned {
  planes?: readonly PlaneCorners[];
  growthAdvised?: number;
  /** The outlines around the hole, and what is drawn of those that run on, once that was asked for. */
  outlines?: Outlines;
  lines?: { drawn: Drawn | undefined };
  /** What is drawn of those that what repeats does not show. */
  missed?: { drawn: Drawn | undefined };
  /** What is drawn of it as its surroundings repeat, once that was looked for. */
  repeats?: { drawn: Drawn | undefined };
}
