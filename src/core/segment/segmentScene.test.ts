import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { reduceMarked } from '../mask/reduceMarked.ts';
import { segmentScene, type Segmentation } from './segmentScene.ts';
import { strangeness } from './strangeness.ts';
import { describeScene } from './subjectScene.ts';

const KERNELS = createTwinKernels();
const [WIDTH, HEIGHT] = [150, 120];
/** A disc on a thin stick. */
const isThing = (x: number, y: number): boolean =>
  (x - 60) ** 2 + (y - 60) ** 2 < 20 ** 2 || (Math.abs(y - 60) < 2 && x >= 60 && x < 110);
const MARK = maskOf(WIDTH, HEIGHT, (x, y) => x >= 32 && x < 118 && y >= 32 && y < 88);
const at = (x: number, y: number): number => y * WIDTH + x;
const NOTHING = new Float32Array(WIDTH * HEIGHT);

function segmented(
  start: (x: number, y: number) => boolean,
  options: {
    explained?: Float32Array;
    known?: Float32Array;
    ground?: (x: number, y: number) => boolean;
    generosity?: number;
  } = {},
): Segmentation {
  const grain = noise(2, 12);
  const picture = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    return isThing(x, y) ? [70 + g, 80 + g, 150 + g] : [150 + g, 140 + g, 110 + g];
  });
  const { explained = NOTHING, known, ground, generosity = 0 } = options;
  const strokes = ground && { subject: maskOf(WIDTH, HEIGHT, () => false), ground: maskOf(WIDTH, HEIGHT, ground) };
  const scene = describeScene(reduceMarked(picture, MARK, 1), strokes, 1);
  const from = Float32Array.from(NOTHING, (_, i) => (start(i % WIDTH, Math.floor(i / WIDTH)) ? 1 : 0));
  return segmentScene(scene, strangeness(scene, KERNELS)!, explained, from, generosity, KERNELS, known);
}

const DISC = (x: number, y: number): boolean => (x - 60) ** 2 + (y - 60) ** 2 < 15 ** 2;

test('what has the colours of the first guess is found to the pixel, its thin parts, too', () => {
  const { subject } = segmented(DISC);
  let wrong = 0;
  subject.forEach((value, i) => {
    if ((value === 1) !== isThing(i % WIDTH, Math.floor(i / WIDTH))) wrong++;
  });
  expect(wrong).toBeLessThan(30);
  expect(subject[at(105, 60)]).toBe(1);
});

test('what the ring explains is ground, though it looks like the subject', () => {
  const explained = NOTHING.map((_, i) => (i % WIDTH >= 90 ? 6.5 : 0));
  const { subject } = segmented(DISC, { explained });
  expect(subject[at(105, 60)]).toBe(0);
  expect(subject[at(60, 60)]).toBe(1);
});

test('what is known to be ground is not subject, though it looks like it', () => {
  const known = NOTHING.map((_, i) => (i % WIDTH >= 90 ? -20 : 0));
  const { subject } = segmented(DISC, { known });
  expect(subject[at(105, 60)]).toBe(0);
  expect(subject[at(60, 60)]).toBe(1);
});

test('a stroke is obeyed to the pixel', () => {
  const { subject } = segmented(DISC, { ground: (x, y) => x >= 55 && x < 60 && y >= 50 && y < 70 });
  for (let y = 50; y < 70; y++) expect(subject[at(57, y)]).toBe(0);
  expect(subject[at(60 + 12, 60)]).toBe(1);
});

test('a segmentation that fits the colours costs less than one from a guess that does not', () => {
  const right = segmented(DISC);
  const wrong = segmented((x) => x >= 75 && x < 118, { ground: (x) => x < 80 });
  expect(right.cost).toBeLessThan(wrong.cost);
});

test('nothing outside the mark is subject, however generous', () => {
  const { subject } = segmented(() => true, { generosity: 1 });
  subject.forEach((value, i) => expect(value).toBeLessThanOrEqual(MARK.data[i]! / 255));
});
