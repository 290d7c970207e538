import { contoursOfPath } from '../../../core/mask/outlinePath.ts';
import { rasteriseContours } from '../../../core/mask/polygon.ts';
import type { Task } from '../../../core/progress.ts';
import type { ApplyInput, Computation, StepResult } from '../../computation.ts';
import { maskUnder, renderMark } from '../../marks/renderMark.ts';
import { placeOf } from './lettersFrame.ts';
import type { TextParams } from './schema.ts';

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

export const computation: Computation<TextParams> = { apply };
