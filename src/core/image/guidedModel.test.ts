import { createTwinKernels } from '../kernels/twinKernels.ts';
import { guidedModel } from './guidedModel.ts';

test('a cut two pixels beside the guide’s edge is pulled onto it', () => {
  const [width, height] = [24, 8];
  const guide = Float32Array.from({ length: width * height }, (_, i) => (i % width < 12 ? 0 : 1));
  const cut = Float32Array.from({ length: width * height }, (_, i) => (i % width < 10 ? 0 : 1));
  const { a, b } = guidedModel(cut, guide, width, height, 4, 1e-4, createTwinKernels());
  const followed = a.map((value, i) => value * guide[i]! + b[i]!);
  const row = Array.from(followed.subarray(4 * width, 5 * width));
  // The largest step of the result is where the guide steps, not where the cut was.
  const steps = row.slice(1).map((value, i) => Math.abs(value - row[i]!));
  expect(steps.indexOf(Math.max(...steps))).toBe(11);
});
