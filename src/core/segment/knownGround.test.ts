import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { reduceMarked } from '../mask/reduceMarked.ts';
import { createTwinKernels } from '../kernels/twinKernels.ts';
import { unlikeTheRest } from './knownGround.ts';
import { describeScene } from './subjectScene.ts';

const [WIDTH, HEIGHT] = [160, 120];
const MARK = maskOf(WIDTH, HEIGHT, (x, y) => x >= 40 && x < 120 && y >= 30 && y < 90);
type Colour = [number, number, number];
const STONE: Colour = [150, 148, 140];
const SHADED_STONE: Colour = [52, 52, 53];
/** As dark as the stone in shadow, but of another hue. */
const SHADED_WOOD: Colour = [54, 52, 40];

interface Scene {
  /** In what was found: at the left, and in its right quarter. */
  left: Colour;
  right: Colour;
  /** At the picture's left edge, in the ring. */
  corner: Colour;
  strokes?: (x: number, y: number) => boolean;
}

/** What is held against the left part, and against the right one, where all that is marked was found. */
function evidence({ left, right, corner, strokes }: Scene): [number, number] {
  const grain = noise(3, 4);
  const picture = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    const inside = MARK.data[y * WIDTH + x];
    const colour = inside ? (x < 100 ? left : right) : x < 35 ? corner : STONE;
    return colour.map((value) => value + g) as Colour;
  });
  const said = strokes && {
    subject: maskOf(WIDTH, HEIGHT, () => false),
    ground: maskOf(WIDTH, HEIGHT, (x, y) => strokes(x, y)),
  };
  const scene = describeScene(reduceMarked(picture, MARK, 1), said, 1);
  const values = unlikeTheRest(
    scene,
    Float32Array.from(MARK.data, (value) => value / 255),
    createTwinKernels(),
  );
  const mean = (from: number): number => {
    let sum = 0;
    for (let y = 45; y < 75; y++) for (let x = from; x < from + 20; x++) sum += values[y * WIDTH + x]!;
    return sum / 600;
  };
  return [mean(50), mean(100)];
}

test('what looks like stone in shadow, as there is some in the ring, is not subject; wood as dark is', () => {
  const [wood, stone] = evidence({ left: SHADED_WOOD, right: SHADED_STONE, corner: SHADED_STONE });
  expect(wood).toBeCloseTo(0, 1);
  expect(stone).toBeLessThan(-2);
});

test('without shadow in the ring nothing is known of it', () => {
  expect(evidence({ left: SHADED_WOOD, right: SHADED_STONE, corner: STONE })).toEqual([0, 0]);
});

test('a stroke speaks for all that is like it, however far away, and not for what is unlike it', () => {
  const strokes = (x: number, y: number): boolean => x >= 102 && x < 110 && y >= 32 && y < 42;
  const [wood, stone] = evidence({ left: SHADED_WOOD, right: SHADED_STONE, corner: STONE, strokes });
  expect(wood).toBeCloseTo(0, 1);
  expect(stone).toBeLessThan(-1);
});

test('a ground that the thing itself looks like says nothing, nor does a mere dab', () => {
  expect(evidence({ left: SHADED_STONE, right: SHADED_STONE, corner: SHADED_STONE })).toEqual([0, 0]);
  const dab = (x: number, y: number): boolean => x >= 102 && x < 108 && y >= 32 && y < 38;
  expect(evidence({ left: SHADED_WOOD, right: SHADED_STONE, corner: STONE, strokes: dab })).toEqual([0, 0]);
});
