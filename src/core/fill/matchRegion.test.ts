import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { drain } from '../progress.ts';
import { matchRegion } from './matchRegion.ts';
import { FILL_STRATEGIES } from './strategy.ts';

const [WIDTH, HEIGHT] = [240, 180];
const grain = noise(5, 40);
const image = pictureOf(WIDTH, HEIGHT, () => [120 + grain(), 110 + grain(), 90 + grain()]);
const strategy = { ...FILL_STRATEGIES[0]!, heightWeight: 0 };

/** By how many rows donors lie above or below what they rebuild, on average, for a hole from column `left` on. */
function rowsAway(left: number, hasHeights: boolean): number {
  const box = { x: left, y: 0, width: 48, height: HEIGHT };
  const isHole = (i: number): boolean => i % WIDTH >= left && i % WIDTH < left + box.width;
  const hole = Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => (isHole(i) ? 1 : 0));
  const input = { image, hole, chosenDonors: false, hasHeights, box };
  const { level, field } = drain(matchRegion(input, strategy, 1, createTwinKernels()));
  const rowOf = (i: number): number => Math.floor(i / level.width);
  const rows = Array.from(level.targets, (target) => Math.abs(rowOf(field.donor[target]!) - rowOf(target)));
  return rows.reduce((a, b) => a + b, 0) / rows.length;
}

test('past the edge of a picture, what is rebuilt comes from about its own height', () => {
  const past = rowsAway(WIDTH - 48, true);
  expect(past).toBeLessThan(0.5 * rowsAway(96, true));
  expect(past).toBeLessThan(0.5 * rowsAway(WIDTH - 48, false));
});
