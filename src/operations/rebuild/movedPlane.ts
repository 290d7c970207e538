import type { Point } from '../../core/geometry/homography.ts';
import { movedCorners } from '../../core/planes/movedPlane.ts';
import type { PlaneParams } from './rebuildSchema.ts';

/** A plane moved by whole px; on. */
export const movedPlane = ({ corners }: { corners: readonly Point[] }, dx: number, dy: number): PlaneParams => ({
  corners: movedCorners(corners, dx, dy),
  on: true,
});
