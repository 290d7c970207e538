import { indexLevel, type Level } from '../../src/core/fill/level.ts';
import { FEATURE_PADDING } from '../../src/core/fill/workImage.ts';
import { kernels } from './kernels.ts';

type At<T> = (x: number, y: number) => T;

/** A grey level that shows `luma` everywhere, in the hole what a match made of it. */
export function levelOf(
  width: number,
  height: number,
  luma: At<number>,
  isHole: At<boolean>,
  isUsable: At<boolean> = (x, y) => !isHole(x, y),
): Level {
  const n = width * height;
  const features = kernels.scratch.bytes(4 * n + FEATURE_PADDING);
  const [hole, usable] = [new Uint8Array(n), new Uint8Array(n)];
  for (let i = 0; i < n; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    hole[i] = isHole(x, y) ? 1 : 0;
    usable[i] = isUsable(x, y) ? 1 : 0;
    features.set([luma(x, y), 128, 128, 30], 4 * i);
  }
  return indexLevel({ width, height, features, hole, usable }, 0, kernels.scratch);
}
