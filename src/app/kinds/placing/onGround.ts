import { footShift, groundPlacement, type GroundPlacement } from '../../../core/place/groundScale.ts';
import type { Mark } from '../../../operations/marks/markSchema.ts';
import type { PlacementParams } from '../../../operations/rebuild/rebuildSchema.ts';
import { subjectFrame } from '../../../operations/rebuild/subjectRegions.ts';
import type { DeskView } from '../../desk/deskView.ts';

interface Shift {
  dxPx: number;
  dyPx: number;
}

export interface OnGround {
  /** How far the subject's foot lies from where it was. */
  from: Shift;
  /** The placement that puts the foot so far from where it was, as large as things are there. */
  settle(shift: Shift): GroundPlacement;
}

/** How a subject goes over the ground by a horizon, px from the top; undefined where there is none, or no subject. */
export function onGround(
  mark: Mark,
  placement: PlacementParams,
  { cutOut, outline, source }: Pick<DeskView, 'cutOut' | 'outline' | 'source'>,
  horizonPx: number | undefined,
): OnGround | undefined {
  const box = cutOut?.rect ?? outline?.box;
  if (horizonPx === undefined || !box) return undefined;
  const foot = box.y + box.height;
  const centre = subjectFrame(mark, source.photo).centre.y;
  return {
    from: footShift(foot, centre, placement),
    settle: (shift) => groundPlacement(horizonPx, foot, centre, shift),
  };
}
