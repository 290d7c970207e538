import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { reduceMarked } from '../mask/reduceMarked.ts';
import { explainedByRing } from './explainedGround.ts';
import { describeScene } from './subjectScene.ts';

const SIZE = 120;
const MARK = maskOf(SIZE, SIZE, (x, y) => x >= 40 && x < 80 && y >= 30 && y < 90);
type Paint = (x: number, y: number) => [number, number, number];

/** Courses of bricks with joints, 12 px by 6. */
const bricks: Paint = (x, y) => {
  const course = Math.floor(y / 6);
  const isJoint = y % 6 === 0 || (x + 6 * (course % 2)) % 12 === 0;
  return isJoint ? [190, 185, 175] : [170, 90, 60];
};

/** The mean evidence over the middle of what is marked. */
function explained(inside: Paint, roughness = 4): number {
  const grain = noise(5, roughness);
  const picture = pictureOf(SIZE, SIZE, (x, y) => {
    const g = grain();
    const paint = MARK.data[y * SIZE + x] ? inside : bricks;
    return paint(x, y).map((value) => value + g) as [number, number, number];
  });
  const small = reduceMarked(picture, MARK, 1);
  const values = explainedByRing(small, describeScene(small, undefined, 1).ring, kernels);
  let [sum, count] = [0, 0];
  for (let y = 40; y < 80; y++) for (let x = 50; x < 70; x++) [sum, count] = [sum + values[y * SIZE + x]!, count + 1];
  return sum / count;
}

test('what goes on as it does around the mark speaks for ground, in a third of the light, too', () => {
  expect(explained(bricks)).toBeGreaterThan(5);
  const shaded: Paint = (x, y) => bricks(x, y).map((value) => value / 3) as [number, number, number];
  expect(explained(shaded)).toBeGreaterThan(2.5);
});

test('rough stones speak for ground where the ring explains its own no better, another rough thing does not', () => {
  const stripes: Paint = (x, y) => ((x + y) % 6 < 3 ? [190, 185, 175] : [170, 90, 60]);
  const roughness = 45;
  expect(explained(bricks, roughness)).toBeGreaterThan(1.5);
  expect(explained(stripes, roughness)).toBeLessThan(0.1);
});

test('another pattern says nothing, whether it has other colours or the same', () => {
  expect(explained((x) => (x % 4 < 2 ? [90, 110, 60] : [150, 160, 90]))).toBeLessThan(0.1);
  expect(explained((x, y) => ((x + y) % 8 < 2 ? [190, 185, 175] : [170, 90, 60]))).toBeLessThan(0.6);
});

test('what is plain says nothing, nor does anything where there is no ring', () => {
  expect(explained(() => [170, 90, 60])).toBe(0);
  const small = reduceMarked(pictureOf(SIZE, SIZE, bricks), MARK, 1);
  const values = explainedByRing(small, new Uint8Array(SIZE * SIZE), kernels);
  expect(values.every((value) => value === 0)).toBe(true);
});
