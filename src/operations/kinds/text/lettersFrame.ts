import { FingoError } from '../../../core/errors.ts';
import { inflate, intersect, isEmpty, translate, wholeOf, type Rect, type Size } from '../../../core/image/rect.ts';
import { contoursOfPath, UNITS_PER_EM, type PathPlace } from '../../../core/mask/outlinePath.ts';
import type { TextParams } from './schema.ts';

/** Larger blocks are made only as far as they lie in the picture, and anew when they are moved. */
const MAX_BLOCK_PX = 40_000_000;

/** Where the layer's own (0, 0) lies in the picture. */
export const originOf = ({ x, y }: TextParams): { x: number; y: number } => ({ x: Math.floor(x), y: Math.floor(y) });

/** How the outline lies from there. */
export function placeOf(params: TextParams): PathPlace {
  const origin = originOf(params);
  return { scale: params.sizePx / UNITS_PER_EM, x: params.x - origin.x, y: params.y - origin.y };
}

/** The px that the letters touch, from the layer's origin. Throws `nothing-marked` where there are none. */
function lettersBox(params: TextParams): Rect {
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
  return inflate({ x, y, width: Math.ceil(right) - x, height: Math.ceil(bottom) - y }, 1);
}

/** Throws `outside-picture` for letters of which nothing lies in the picture. */
export function requireInPicture(params: TextParams, photo: Size): void {
  const { x, y } = originOf(params);
  if (!isEmpty(intersect(translate(lettersBox(params), x, y), wholeOf(photo)))) return;
  throw new FingoError('outside-picture', 'The text lies outside the picture; drag it in, or give it a place.');
}

/** Whether the letters are made for one place only: cut by something of the picture, or too large to be made whole. */
export function isForOnePlace(params: TextParams): boolean {
  const { width, height } = lettersBox(params);
  return params.behind !== undefined || width * height > MAX_BLOCK_PX;
}

/** The px that are made of the letters, from the layer's origin. */
export function lettersFrame(params: TextParams, photo: Size): Rect {
  const box = lettersBox(params);
  if (!isForOnePlace(params)) return box;
  const { x, y } = originOf(params);
  return intersect(box, translate(wholeOf(photo), -x, -y));
}
