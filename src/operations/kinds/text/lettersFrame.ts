import { FingoError } from '../../../core/errors.ts';
import { inflate, intersect, isEmpty, wholeOf, type Rect, type Size } from '../../../core/image/rect.ts';
import { contoursOfPath, UNITS_PER_EM, type PathPlace } from '../../../core/mask/outlinePath.ts';
import type { TextParams } from './schema.ts';

export const placeOf = ({ x, y, sizePx }: TextParams): PathPlace => ({ scale: sizePx / UNITS_PER_EM, x, y });

/** The px that the letters touch. */
export function lettersFrame(params: TextParams, photo: Size): Rect {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const contour of contoursOfPath(params.outline, placeOf(params))) {
    for (let i = 0; i < contour.length; i += 2) {
      left = Math.min(left, contour[i]!);
      right = Math.max(right, contour[i]!);
      top = Math.min(top, contour[i + 1]!);
      bottom = Math.max(bottom, contour[i + 1]!);
    }
  }
  if (!(right > left)) throw new FingoError('nothing-marked', 'There is no text yet; write some.');
  const [x, y] = [Math.floor(left), Math.floor(top)];
  const all = inflate({ x, y, width: Math.ceil(right) - x, height: Math.ceil(bottom) - y }, 1);
  const frame = intersect(all, wholeOf(photo));
  if (isEmpty(frame)) {
    throw new FingoError('outside-picture', 'The text lies outside the picture; drag it in, or give it a place.');
  }
  return frame;
}
