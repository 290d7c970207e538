import { translate } from '../../../core/image/rect.ts';
import { contoursOfPath } from '../../../core/mask/outlinePath.ts';
import { rasteriseContours } from '../../../core/mask/polygon.ts';
import type { Task } from '../../../core/progress.ts';
import type { ApplyInput, Computation, StepResult } from '../../computation.ts';
import { patchesUnder } from '../../marks/patchesUnder.ts';
import { maskUnder, renderMark } from '../../marks/renderMark.ts';
import { lettersFrame, originOf, placeOf } from './lettersFrame.ts';
import type { TextParams } from './schema.ts';

/** The letters in their colour, their coverage as alpha, from the layer's origin on. */
function* apply({ params, photo }: ApplyInput<TextParams>): Task<StepResult> {
  const start = performance.now();
  yield { stage: 'Setting the text', share: 0 };
  const rect = lettersFrame(params, photo);
  const { width, height } = rect;
  const { scale, x, y } = placeOf(params);
  const letters = rasteriseContours(
    contoursOfPath(params.outline, { scale, x: x - rect.x, y: y - rect.y }),
    width,
    height,
  );
  const origin = originOf(params);
  const inFront =
    params.behind && maskUnder(renderMark(params.behind, photo), translate(rect, origin.x, origin.y)).data;
  const ink = [1, 3, 5].map((at) => parseInt(params.colour.slice(at, at + 2), 16));
  const data = new Uint8ClampedArray(4 * width * height);
  for (let i = 0; i < letters.data.length; i++) {
    const cover = inFront ? Math.round((letters.data[i]! * (255 - inFront[i]!)) / 255) : letters.data[i]!;
    if (cover === 0) continue;
    data.set(ink, 4 * i);
    data[4 * i + 3] = cover;
  }
  const patches = patchesUnder(rect, { width, height, data }, letters);
  return { patches, rank: 0, timings: { letters: performance.now() - start } };
}

export const computation: Computation<TextParams> = { apply };
