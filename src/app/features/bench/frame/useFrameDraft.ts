import { isAsTaken } from '../../../../core/geometry/frameGeometry.ts';
import type { Size } from '../../../../core/image/rect.ts';
import type { FrameParams, Side } from '../../../../operations/reframe/schema.ts';
import { vacantSides } from '../../../../operations/reframe/vacancy.ts';
import type { Draft } from '../../../../storage/projectSchema.ts';
import { useAppSelector } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';

export interface FrameOutlook {
  frame: FrameParams;
  margins: NonNullable<Draft['reframe']>;
  /** The size of the photo that gets the frame. */
  photo: Size;
  /** The sides on which something is vacant. */
  vacant: Side[];
  /** Whether the frame is still the photo's own. */
  isUnchanged: boolean;
  /** Whether anything is rebuilt. */
  isRebuilt: boolean;
}

/** The frame that is being set and what it entails; undefined while another job is done. */
export function useFrameDraft(): FrameOutlook | undefined {
  const { photo } = useDeskView().source;
  const margins = useAppSelector((state) => state.bench.project!.draft.reframe);
  if (!margins) return undefined;
  const { frame, sides } = margins;
  const { x, y, width, height } = frame.rect;
  const vacant = vacantSides(frame, photo);
  return {
    frame,
    margins,
    photo,
    vacant,
    isUnchanged: isAsTaken(frame) && x === 0 && y === 0 && width === photo.width && height === photo.height,
    isRebuilt: vacant.some((side) => sides.includes(side)),
  };
}
