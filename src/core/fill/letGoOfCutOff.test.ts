import { kernels } from '../../../tests/support/kernels.ts';
import { levelOf } from '../../../tests/support/levels.ts';
import { coherentSources } from './coherentSources.ts';

const WIDTH = 160;
const HEIGHT = 110;
const HOLE = { left: 80, right: 140, top: 10, bottom: 50 };
const SKY = 180;
const POST = 60;
/** Below the hole lies sky, and left of that a post. */
const TO_SKY = 50 * WIDTH;
const TO_POST = 50 * WIDTH - 70;

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}
const isIn = ({ left, right, top, bottom }: Box, x: number, y: number): boolean =>
  x >= left && x < right && y >= top && y < bottom;
const isInAny = (boxes: Box[], x: number, y: number): boolean => boxes.some((box) => isIn(box, x, y));
const grownBy = (by: number, { left, right, top, bottom }: Box): Box => ({
  left: left - by,
  right: right + by,
  top: top - by,
  bottom: bottom + by,
});

beforeEach(() => kernels.reset());

/**
 * How many cells of the hole show the post after the match put it into `box`, while it takes up `post` where it stands
 * (told in the hole, too). Nothing may be copied from the sky below where it is `closed`.
 */
function cellsOfPost(box: Box, post: Box[], closed?: Box): number {
  const level = levelOf(
    WIDTH,
    HEIGHT,
    (x, y) => (isIn(box, x, y) || (y < HOLE.top && isInAny(post, x, y)) || isInAny(post, x + 70, y - 50) ? POST : SKY),
    (x, y) => isIn(HOLE, x, y),
    (x, y) => !isIn(HOLE, x, y) && !(closed && isIn(closed, x, y - 50)),
  );
  const field = { donor: kernels.scratch.ints(WIDTH * HEIGHT), cost: kernels.scratch.ints(WIDTH * HEIGHT) };
  for (const target of level.targets) {
    const isPost = isIn(box, target % WIDTH, Math.floor(target / WIDTH));
    field.donor[target] = target + (isPost ? TO_POST : TO_SKY);
  }
  const { dx, dy } = coherentSources(level, field, 1, kernels);
  return level.holePixels.filter((cell) => level.features[4 * (cell + dy[cell]! * WIDTH + dx[cell]!)] === POST).length;
}

const INSIDE: Box = { left: 100, right: 110, top: 26, bottom: 36 };

test('a piece of a post that hangs in the sky, cut off all around, is let go of', () => {
  expect(cellsOfPost(INSIDE, [grownBy(8, INSIDE)])).toBe(0);
});

test('a whole thing stays', () => {
  expect(cellsOfPost(INSIDE, [INSIDE])).toBe(100);
});

test('a thing stays that is whole but for a twentieth of its outline', () => {
  const bar = { left: INSIDE.right, right: INSIDE.right + 20, top: INSIDE.top + 4, bottom: INSIDE.top + 6 };
  expect(cellsOfPost(INSIDE, [INSIDE, bar])).toBeGreaterThanOrEqual(100);
});

test('what reaches the rim may end inside the hole', () => {
  const atRim = { ...INSIDE, top: HOLE.top, bottom: HOLE.top + 10 };
  expect(cellsOfPost(atRim, [grownBy(8, atRim)])).toBeGreaterThan(90);
});

test('what makes up more than a twentieth of the hole stays', () => {
  const large = grownBy(3, INSIDE);
  expect(cellsOfPost(large, [grownBy(8, large)])).toBeGreaterThan(240);
});

test('all stays as it was where hardly less would be cut off', () => {
  const closed = { ...INSIDE, left: INSIDE.left + 1 };
  expect(cellsOfPost(INSIDE, [grownBy(8, INSIDE)], closed)).toBe(100);
});
