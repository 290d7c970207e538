import type { Size } from '../../../core/image/rect.ts';
import { shiftMark } from '../../marks/followMark.ts';
import { shiftedLine } from '../../rebuild/movedLine.ts';
import { movedPlane } from '../../rebuild/movedPlane.ts';
import type { RebuildParams } from '../../rebuild/rebuildMarked.ts';
import type { ReframeParams } from './schema.ts';
import { vacancyMark } from './vacancy.ts';

/** What is rebuilt, in px of the frame, beyond a share of the way outward. */
export function rebuildOf(params: ReframeParams, frame: Size & { photo: Size }, from = 0): RebuildParams {
  const { x, y } = params.frame.rect;
  const { donors, protect, planes, runOn, take, closeness } = params;
  return {
    mark: vacancyMark(params, frame.photo, { from }),
    ...(donors && { donors: shiftMark(donors, -x, -y) }),
    ...(protect && { protect: shiftMark(protect, -x, -y) }),
    ...(planes && { planes: planes.map((plane) => ({ ...movedPlane(plane, -x, -y), on: plane.on })) }),
    ...(runOn && { runOn: runOn.map((line) => shiftedLine(line, -x, -y)) }),
    take,
    closeness,
  };
}
