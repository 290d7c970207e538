import { maskOf, noise, pictureOf } from '../../tests/support/pictures.ts';
import { fillRegion } from '../core/fill/fill.ts';
import { FILL_STRATEGIES } from '../core/fill/strategy.ts';
import { drain } from '../core/progress.ts';
import { nodeKernels } from '../kernels/node/nodeKernels.ts';
import { warmUp } from './warmUp.ts';

test('a warm-up given up at any report leaves nothing that changes the next take', () => {
  const grain = noise(3, 60);
  const image = pictureOf(160, 120, (_, y) => [120 + grain(), 100 + grain(), 140 + (y % 16 < 2 ? -90 : 0)]);
  const mark = maskOf(160, 120, (x, y) => (x - 80) ** 2 + (y - 60) ** 2 < 20 ** 2);
  const kernels = nodeKernels(1);
  const take = () => drain(fillRegion({ image, mark, strategy: FILL_STRATEGIES[0]!, seed: 1 }, kernels)).image.data;
  const cold = take();
  for (const reports of [1, 20, 45]) {
    const task = warmUp(kernels);
    for (let k = 0; k < reports; k++) expect(task.next().done).toBe(false);
    expect(take()).toEqual(cold);
  }
});
