import { isAsTaken } from '../../../core/geometry/frameGeometry.ts';
import type { Size } from '../../../core/image/rect.ts';
import type { FrameParams, ReframeParams, Side } from '../../../operations/kinds/reframe/schema.ts';
import { vacantSides } from '../../../operations/kinds/reframe/vacancy.ts';
import { reframe } from '../../../operations/kinds/reframe/index.ts';
import { useOwn } from '../../features/bench/useChange.ts';
import { useDeskView } from '../../features/bench/benchContext.ts';

/** What a draft holds for a frame. */
export type Margins = Pick<ReframeParams, 'frame' | 'sides' | 'rimPx' | 'passes'>;

export interface FrameOutlook {
  frame: FrameParams;
  margins: Margins;
  /** The size of the photo that gets the frame. */
  photo: Size;
  /** The sides on which something is vacant. */
  vacant: Side[];
  /** Whether the frame is still the photo's own. */
  isUnchanged: boolean;
}

/** The frame that is being set and what it entails. */
export function useFrameDraft(): FrameOutlook {
  const { photo } = useDeskView().source;
  const margins = useOwn(reframe)!;
  const { frame } = margins;
  const { x, y, width, height } = frame.rect;
  const vacant = vacantSides(frame, photo);
  return {
    frame,
    margins,
    photo,
    vacant,
    isUnchanged: isAsTaken(frame) && x === 0 && y === 0 && width === photo.width && height === photo.height,
  };
}
