/** R, G, B. */
export type Colour = readonly [number, number, number];

/** An outline that reaches a hole's rim, in reduced px of its edge field. */
export interface Crossing {
  /** Where it meets the rim. */
  x: number;
  y: number;
  /** The direction out of the hole, of length 1. Its left is (outY, -outX): what lies against that is its right. */
  outX: number;
  outY: number;
  /** How it bends, 1 / px: positive to its right. */
  curvature: number;
  /** How far it was followed. */
  length: number;
  /** How colour changes across it, from its left to its right, in levels a px, R, G, B; and how much, root mean square. */
  step: Colour;
  strength: number;
  /** Colours across it from left to right, `PROFILE_REACH` px to either side, R, G, B, interleaved. */
  profile: Float32Array;
}

/** How crossings are looked for; all lengths in reduced px. */
export const CROSSING_OPTIONS = {
  /** Directions are tried up to so far from square across the rim, in steps of so much, radians. */
  widest: 1.2,
  turn: 0.07,
  /** Looked for over so many px, and followed up to so far. */
  shortest: 12,
  longest: 64,
  /** A weaker change of colour, levels a px, is texture or noise. */
  weakest: 2.2,
  /** Along an outline the change of colour is the same; of texture it is not. So much of it must be. */
  coherent: 0.6,
  /** Rim points so near to a stronger crossing of about its direction (radians) show the same outline. */
  apart: 3,
  apartTurn: 0.5,
  /** No more than so many, the strongest, are kept. */
  most: 80,
};
export type CrossingOptions = typeof CROSSING_OPTIONS;

/** A straight way out of a hole across which colour changes, from a point of its rim. */
export interface Candidate {
  x: number;
  y: number;
  angle: number;
  /** How much speaks for it. */
  score: number;
  /** The change of colour across it, to the right, levels a px. */
  step: Colour;
}

/** Colours are read so many px to either side. */
export const PROFILE_REACH = 8;
/** An outline is followed from so many px outside the rim on: what is nearer is mixed with the hole. */
export const FROM_PX = 2;
/** An outline that leaves askew runs so far along what is mixed with the hole. */
export const MAX_ALONG_RIM_PX = 12;

/** How much speaks for a crossing: strength, and length in its square root. */
export const weightOf = ({ strength, length }: Crossing): number => strength * Math.sqrt(length);

/** How far to the right of the way out through `on` another crossing begins. */
export function asideOf(on: Crossing, { x, y }: Crossing): number {
  const [dx, dy] = [x - on.x, y - on.y];
  const far = dx * on.outX + dy * on.outY;
  return -dx * on.outY + dy * on.outX - 0.5 * on.curvature * far * far;
}
