import type { Point } from '../geometry/homography.ts';
import type { PlaneCorners } from './findPlanes.ts';

/** A plane as it lies in a picture of which the first pixel lies at (-dx, -dy) of the one it was found in. */
export function movedPlane({ corners, shown, edge }: PlaneCorners, dx: number, dy: number): PlaneCorners {
  return {
    corners: movedCorners(corners, dx, dy),
    ...(shown && { shown: { ...shown, x: shown.x + dx, y: shown.y + dy } }),
    ...(edge && { edge: movedEdge(edge, dx, dy) }),
  };
}

/** The same of its corners alone. */
export const movedCorners = (corners: readonly Point[], dx: number, dy: number) =>
  corners.map(({ x, y }) => ({ x: x + dx, y: y + dy })) as PlaneCorners['corners'];

/** The same of an edge of two materials, a x + b y + c = 0. */
export const movedEdge = ([a, b, c]: NonNullable<PlaneCorners['edge']>, dx: number, dy: number) =>
  [a, b, c - a * dx - b * dy] as const;
