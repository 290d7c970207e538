import { kernels } from '../../../tests/support/kernels.ts';
import { indexLevel, type Level } from './level.ts';
import { continueLines } from './lineStart.ts';

/** Light ground with a dark bar through row 20 that a square hole interrupts. */
function brokenBar(): Level {
  const [width, height] = [60, 40];
  kernels.reset();
  const features = kernels.scratch.bytes(4 * width * height + 16);
  const hole = kernels.scratch.bytes(width * height);
  const usable = kernels.scratch.bytes(width * height);
  for (let i = 0; i < hole.length; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    hole[i] = x >= 24 && x < 36 && y >= 14 && y < 28 ? 1 : 0;
    usable[i] = 1 - hole[i]!;
    features.set(hole[i] ? [90, 0, 0, 0] : [Math.abs(y - 20) < 2 ? 40 : 200, 128, 128, 0], 4 * i);
  }
  return indexLevel({ width, height, features, hole, usable }, 0, kernels.scratch);
}

test('a bar runs on through the hole, the ground beside it stays ground', () => {
  const level = brokenBar();
  continueLines(level, kernels);
  const luma = (x: number, y: number): number => level.features[4 * (y * level.width + x)]!;
  for (let x = 24; x < 36; x++) {
    expect(luma(x, 20)).toBe(40);
    for (const y of [15, 17, 23, 26]) expect(luma(x, y)).toBe(200);
  }
});

test('every patch that touches the hole has a donor that does not', () => {
  const level = brokenBar();
  const { donor } = continueLines(level, kernels);
  for (const target of level.targets) expect(level.isDonor[donor[target]!]).toBe(1);
});
