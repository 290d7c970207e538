import { footShift, groundPlacement, type GroundPlacement } from '../../../core/place/groundScale.ts';
import { subjectFrame } from '../../../operations/rebuild/placeMarked.ts';
import type { Draft } from '../../../storage/projectSchema.ts';
import type { DeskView } from '../../desk/deskView.ts';
import { isPlacing } from './draft.ts';

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
  draft: Draft,
  { cutOut, outline, source }: Pick<DeskView, 'cutOut' | 'outline' | 'source'>,
  horizonPx = draft.horizonPx,
): OnGround | undefined {
  const box = cutOut?.rect ?? outline?.box;
  if (horizonPx === undefined || !isPlacing(draft.what) || !box) return undefined;
  const foot = box.y + box.height;
  const centre = subjectFrame(draft.mark, source.photo).centre.y;
  return {
    from: footShift(foot, centre, draft.placement),
    settle: (shift) => groundPlacement(horizonPx, foot, centre, shift),
  };
}
