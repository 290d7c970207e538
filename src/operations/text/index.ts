import { FingoError } from '../../core/errors.ts';
import { inflate, intersect, isEmpty, wholeOf, type Rect, type Size } from '../../core/image/rect.ts';
import { contoursOfPath, type PathPlace } from '../../core/mask/outlinePath.ts';
import { rasteriseContours } from '../../core/mask/polygon.ts';
import type { Task } from '../../core/progress.ts';
import type { ApplyInput, Operation, StepResult } from '../operation.ts';
import { maskUnder, renderMark } from '../marks/renderMark.ts';
import { textSchema, UNITS_PER_EM, type TextParams } from './schema.ts';

/** What of a text is shown in lists. */
const SHOWN_LETTERS = 24;

const placeOf = ({ x, y, sizePx }: TextParams): PathPlace => ({ scale: sizePx / UNITS_PER_EM, x, y });

/** The px that the letters touch. */
function lettersFrame(params: TextParams, photo: Size): Rect {
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

function* apply({ params, photo, regions }: ApplyInput<TextParams>): Task<StepResult> {
  const start = performance.now();
  const { rect, image } = regions[0]!;
  yield { stage: 'Setting the text', share: 0 };
  const { scale, x, y } = placeOf(params);
  const contours = contoursOfPath(params.outline, { scale, x: x - rect.x, y: y - rect.y });
  const letters = rasteriseContours(contours, rect.width, rect.height).data;
  const inFront = params.behind && maskUnder(renderMark(params.behind, photo), rect).data;
  const ink = [1, 3, 5].map((at) => parseInt(params.colour.slice(at, at + 2), 16));
  const data = image.data.slice();
  for (let i = 0; i < letters.length; i++) {
    const cover = (letters[i]! / 255) * params.opacity * (inFront ? 1 - inFront[i]! / 255 : 1);
    if (cover === 0) continue;
    const below = (data[4 * i + 3]! / 255) * (1 - cover);
    for (let c = 0; c < 3; c++)
      data[4 * i + c] = Math.round((cover * ink[c]! + below * data[4 * i + c]!) / (cover + below));
    data[4 * i + 3] = Math.round(255 * (cover + below));
  }
  const timings = { letters: performance.now() - start };
  return { patches: [{ rect, image: { ...image, data } }], rank: 0, timings };
}

/** A block of text laid on the picture, or behind what is marked in it. */
export const textOperation: Operation<TextParams> = {
  type: 'text',
  version: 1,
  title: 'Text',
  schema: textSchema,
  strategies: ['as it is'],
  summarize({ text }) {
    const line = text.replaceAll(/\s+/g, ' ').trim();
    return `Text “${line.length > SHOWN_LETTERS ? `${line.slice(0, SHOWN_LETTERS)}…` : line}”`;
  },
  regions: (params, photo) => [lettersFrame(params, photo)],
  apply,
};
