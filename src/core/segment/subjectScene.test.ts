import { maskOf, pictureOf } from '../../../tests/support/pictures.ts';
import { createMask } from '../mask/mask.ts';
import { reduceMarked } from '../mask/reduceMarked.ts';
import { FEATURES } from './colourMixture.ts';
import { describePixels, describeScene } from './subjectScene.ts';

const [WIDTH, HEIGHT, FACTOR] = [120, 80, 4];
const isMarked = (x: number, y: number) => x >= 40 && x < 80 && y >= 20 && y < 60;
const MARK = maskOf(WIDTH, HEIGHT, isMarked);
const PICTURE = pictureOf(WIDTH, HEIGHT, (x, y) => (isMarked(x, y) ? [200, 100, 50] : [60, 60, 60]));
const SMALL = reduceMarked(PICTURE, MARK, FACTOR);
const at = (x: number, y: number): number => Math.floor(y / FACTOR) * SMALL.width + Math.floor(x / FACTOR);

test('pixels are described by luma, two differences of colour that grey has none of, and their place', () => {
  const features = describePixels(SMALL, 30);
  const grey = FEATURES * at(4, 4);
  expect(features[grey]).toBeCloseTo(60, 3);
  expect(features[grey + 1]).toBeCloseTo(0, 3);
  expect(features[grey + 2]).toBeCloseTo(0, 3);
  const orange = FEATURES * at(60, 40);
  expect(features[orange + 1]).toBeLessThan(-50);
  expect(features[orange + 2]).toBeGreaterThan(50);
  // The longer side is as long as 30 levels of luma.
  expect(features[FEATURES * at(119, 4) + 3]! - features[FEATURES * at(0, 4) + 3]!).toBeCloseTo(29, 3);
  expect(describePixels(SMALL, 0)[grey + 3]).toBe(0);
});

test('depth grows from the rim inward, and the ring lies around the mark without it', () => {
  const { depth, ring } = describeScene(SMALL, undefined, FACTOR);
  expect(depth[at(20, 40)]).toBe(0);
  expect(depth[at(60, 40)]!).toBeGreaterThan(depth[at(44, 40)]!);
  expect(ring[at(36, 40)]).toBe(1);
  expect(ring[at(60, 40)]).toBe(0);
  expect(ring[at(4, 4)]).toBe(0);
});

test('what is unseen is left out of the ring alone', () => {
  const unseen = maskOf(WIDTH, HEIGHT, (x) => x < 40);
  const plain = describeScene(SMALL, undefined, FACTOR);
  const scene = describeScene(SMALL, undefined, FACTOR, unseen);
  expect(scene.ring[at(36, 40)]).toBe(0);
  expect(scene.ring[at(84, 40)]).toBe(1);
  expect(scene.depth).toEqual(plain.depth);
});

test('strokes say what is subject and what is ground, however thin they are', () => {
  const subject = createMask(WIDTH, HEIGHT);
  subject.data[41 * WIDTH + 61] = 255;
  const ground = createMask(WIDTH, HEIGHT);
  ground.data[23 * WIDTH + 47] = 255;
  // Too faint to say anything.
  ground.data[50 * WIDTH + 70] = 100;
  const { said } = describeScene(SMALL, { subject, ground }, FACTOR);
  expect(said[at(61, 41)]).toBe(1);
  expect(said[at(47, 23)]).toBe(2);
  expect(said.reduce((sum, value) => sum + value, 0)).toBe(3);
});

test('edges of colour weaken what joins pixels, and nothing joins marked to unmarked ones', () => {
  const halves = pictureOf(WIDTH, HEIGHT, (x) => (x < 60 ? [200, 100, 50] : [60, 90, 160]));
  const { edges, width } = describeScene(reduceMarked(halves, MARK, FACTOR), undefined, FACTOR);
  const across = at(56, 40);
  expect(edges.right[across]!).toBeLessThan(0.05);
  expect(edges.right[across - 2]!).toBeGreaterThan(0.9);
  expect(edges.right[at(76, 40)]).toBe(0);
  expect(edges.toUnmarked[at(76, 40)]!).toBeGreaterThan(0.9);
  expect(edges.down[across - 2 + width]!).toBeGreaterThan(0.9);
});
