import { kernels } from '../../../tests/support/kernels.ts';
import { pictureOf } from '../../../tests/support/pictures.ts';
import { LumaSquares } from './lumaSquares.ts';
import type { CopiedPart } from './copiedPart.ts';

const [WIDTH, HEIGHT] = [60, 40];
const BOX = { x: 8, y: 4, width: 41, height: 30 };

/** The box of a picture whose left part alone was copied, 100 light there and 200 elsewhere. */
function squares(): LumaSquares {
  const part = new Uint8Array(WIDTH * HEIGHT);
  for (let y = BOX.y; y < BOX.y + BOX.height; y++) part.fill(1, y * WIDTH + BOX.x, y * WIDTH + BOX.x + 18);
  const out = pictureOf(BOX.width, BOX.height, (x) => (x < 18 ? [100, 100, 100] : [200, 200, 200])).data;
  return new LumaSquares(
    { image: { width: WIDTH, height: HEIGHT }, part, box: BOX } as unknown as CopiedPart,
    out,
    kernels,
  );
}

test('squares of four px hold what was copied into them and nothing else', () => {
  const { width, height, sums, counts } = squares();
  expect([width, height]).toEqual([11, 8]);
  expect([counts[0], counts[4], counts[5]]).toEqual([16, 8, 0]);
  expect(sums[0]).toBeCloseTo(1600, 2);
  expect(sums[4]).toBeCloseTo(800, 2);
  // The last row of squares is cut off by the box.
  expect(counts[7 * width]).toBe(8);
});

test('means look at copied pixels alone, however few there are around', () => {
  const { width } = squares();
  const means = squares().means();
  expect(means[0]).toBeCloseTo(100, 2);
  expect(means[3 * width + 8]).toBeCloseTo(100, 2);
});
