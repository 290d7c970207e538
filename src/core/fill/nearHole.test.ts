import { nearHole } from './nearHole.ts';

const [WIDTH, HEIGHT] = [12, 9];

/** Whether (x, y) is near a hole of the two pixels (1, 4) and (2, 4). */
function nearPair(reach: number): (x: number, y: number) => boolean {
  const hole = new Uint8Array(WIDTH * HEIGHT);
  hole[4 * WIDTH + 1] = hole[4 * WIDTH + 2] = 1;
  const near = nearHole({ width: WIDTH, height: HEIGHT, hole }, reach);
  return (x, y) => near[y * WIDTH + x] === 1;
}

test('what lies within reach of a hole, as the crow flies, is near it', () => {
  const isNear = nearPair(2.5);
  expect(isNear(2, 4)).toBe(true);
  expect(isNear(4, 5)).toBe(true);
  expect(isNear(4, 6)).toBe(false);
  expect(isNear(4, 4)).toBe(true);
  expect(isNear(5, 4)).toBe(false);
  expect(isNear(0, 2)).toBe(true);
});

test('nothing is near no hole', () => {
  const near = nearHole({ width: WIDTH, height: HEIGHT, hole: new Uint8Array(WIDTH * HEIGHT) }, 3);
  expect(near.every((bit) => bit === 0)).toBe(true);
});
