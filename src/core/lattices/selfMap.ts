import type { Homography } from '../geometry/homography.ts';

/** A map under which part of the surroundings of a hole looks like another part of the picture. */
export interface SelfMap {
  /** From reduced px to reduced px. */
  map: Homography;
  /** How much of the structure looked at is the same, in squares of some px. */
  support: number;
  /** Whether it is a step along a plane. */
  isStep: boolean;
}

/** How maps are found; lengths in reduced px. */
export const MAP_OPTIONS = {
  /** A map is fitted to what lies within so many px of a place, then within ever more. */
  firstReach: 12,
  growth: 1.4,
  /** From so many px on it may shear, and be in perspective. */
  shearsFrom: 16,
  tiltsFrom: 24,
  /** So many points are looked at. */
  points: 500,
  /** Where less of the detail is the same nothing is, and a place of which not so much is is not followed. */
  least: 0.4,
  leastAtFirst: 0.5,
  /** Fitting moves the place by no more than so much. */
  stray: 4,
  /** Less support tells nothing. */
  leastSupport: 8,
  /** Another map than a step along a plane must have so many times as much. */
  better: 1.2,
  most: 16,
  /** In the end they are fitted to so many points within so many px around the hole. */
  around: 60,
  pointsAround: 900,
  rounds: 2,
  /** So many of the best are tried one after the other. */
  composed: 8,
  /** So many are kept. */
  kept: 36,
  tries: 40,
};

export type MapOptions = typeof MAP_OPTIONS;
