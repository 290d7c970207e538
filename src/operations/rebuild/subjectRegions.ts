import { FingoError } from '../../core/errors.ts';
import { inflate, intersect, isEmpty, unite, wholeOf, type Rect, type Size } from '../../core/image/rect.ts';
import { placedRect } from '../../core/place/placedRect.ts';
import type { Mark } from '../marks/markSchema.ts';
import { markFrame } from '../marks/renderMark.ts';
import type { PlacingParams } from './rebuildSchema.ts';
import { shadowLanding, type ShadowParams } from './shadowLanding.ts';

/** What tells a subject from the ground inside its mark. */
export type SubjectParams = Pick<PlacingParams, 'mark' | 'belongs' | 'belongsNot'>;

/** The mark's frame and the point about which a subject is scaled, turned and mirrored: the frame's centre. */
export function subjectFrame(mark: Mark, photo: Size): { frame: Rect; centre: { x: number; y: number } } {
  const frame = markFrame(mark, photo);
  return { frame, centre: { x: frame.x + frame.width / 2, y: frame.y + frame.height / 2 } };
}

/** The part of the photo that a placed subject lands on. Throws `outside-picture` when it misses the photo. */
export function landingRegion(params: ShadowParams, photo: Size): Rect {
  const { frame, centre } = subjectFrame(params.mark, photo);
  const rect = placedRect(frame, { placement: params.placement, centre }, wholeOf(photo));
  if (isEmpty(rect)) {
    throw new FingoError('outside-picture', 'The new place lies outside the picture; drag the subject back into it.');
  }
  return unite(rect, intersect(shadowLanding(params, photo, frame, centre), wholeOf(photo)));
}

/** The part of the photo around a mark that finding its subject looks at. */
export function subjectRegion(mark: Mark, photo: Size): Rect {
  const frame = markFrame(mark, photo);
  return intersect(inflate(frame, Math.ceil(0.15 * Math.max(frame.width, frame.height)) + 8), wholeOf(photo));
}
