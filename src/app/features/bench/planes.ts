import type { Rect } from '../../../core/image/rect.ts';
import type { RebuildReport } from '../../../operations/computation.ts';
import type { PlaneParams } from '../../../operations/rebuild/rebuildSchema.ts';
import type { Draft } from '../../../operations/draft.ts';
import type { Point } from './photo/viewport.ts';

/** The planes to be shown: those set by hand, else those that were found for any of the takes. */
export function planesInSight(draft: Draft, reports: ReadonlyMap<string, RebuildReport>): PlaneParams[] {
  if (draft.planes) return draft.planes;
  for (const { planes } of reports.values()) if (planes.length > 0) return planes;
  return [];
}

export function withCorner(plane: PlaneParams, corner: number, at: Point): PlaneParams {
  const corners = plane.corners.map((p, k) => (k === corner ? at : p)) as PlaneParams['corners'];
  return { ...plane, corners };
}

/** A plane to begin with: over the mark, lying like ground before the eye. */
export function planeOverMark({ x, y, width, height }: Rect): PlaneParams {
  const [left, right] = [x - 0.4 * width, x + 1.4 * width];
  const [top, bottom] = [y - 0.1 * height, y + 1.2 * height];
  const inset = 0.2 * (right - left);
  return {
    corners: [
      { x: left + inset, y: top },
      { x: right - inset, y: top },
      { x: right, y: bottom },
      { x: left, y: bottom },
    ],
    on: true,
  };
}
