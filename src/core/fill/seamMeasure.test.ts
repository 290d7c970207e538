import { kernels } from '../../../tests/support/kernels.ts';
import { pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage } from '../image/rasterImage.ts';
import { carriedSources } from './carriedSources.ts';
import { measureSeams, seamErrorOf } from './seamMeasure.ts';
import { copiedPart } from './copiedPart.ts';

const SIDE = 100;
const BOX = { x: 30, y: 30, width: 24, height: 20 };

/** Boards across the picture, all alike over their whole length. */
const boards = pictureOf(SIDE, SIDE, (_x, y) => {
  const value = y % 8 === 0 ? 60 : 150 + (y % 8);
  return [value, value, value];
});
const hole = new Uint8Array(SIDE * SIDE).map((_, i) => {
  const [x, y] = [i % SIDE, Math.floor(i / SIDE)];
  return x >= BOX.x && x < BOX.x + BOX.width && y >= BOX.y && y < BOX.y + BOX.height ? 1 : 0;
});

/** The hole's left half copied from below, the right half from there and some px farther. */
function errorWith(farther: number): number {
  const offsets = [
    { dx: 0, dy: 32 },
    { dx: 0, dy: 32 + farther },
  ];
  const sources = carriedSources(boards, hole, offsets, (x) => (x < BOX.x + BOX.width / 2 ? 0 : 1));
  const made = cropImage(boards, BOX).data;
  sources.copy(hole, BOX, made);
  const copied = copiedPart({ image: boards, unknown: hole, part: hole, box: BOX, sources }, kernels);
  return seamErrorOf([measureSeams(copied, made, kernels)]).seamError;
}

test('where boards run on there is no seam; shifted against each other they show one, the more the farther', () => {
  expect(errorWith(0)).toBeCloseTo(0, 9);
  expect(errorWith(8)).toBeCloseTo(0, 9);
  expect(errorWith(1)).toBeGreaterThan(0.02);
  expect(errorWith(4)).toBeGreaterThan(1.1 * errorWith(1));
});
