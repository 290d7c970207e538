import { createTwinKernels } from '../kernels/twinKernels.ts';
import { expectTexture, leadTexture } from './expectedTexture.ts';
import { indexLevel, type Level } from './level.ts';

const kernels = createTwinKernels();

/** A square with a square hole in its middle, its texture measure given around the hole and within. */
function levelWith(side: number, around: number, within: number): Level {
  const isHole = (i: number): boolean =>
    Math.max(Math.abs((i % side) - side / 2), Math.abs(Math.floor(i / side) - side / 2)) < side / 5;
  const hole = Uint8Array.from({ length: side * side }, (_, i) => (isHole(i) ? 1 : 0));
  const features = new Uint8Array(4 * side * side + 16).fill(50);
  hole.forEach((h, i) => (features[4 * i + 3] = h ? within : around));
  const usable = hole.map((h) => 1 - h) as Uint8Array<ArrayBuffer>;
  return indexLevel({ width: side, height: side, features, hole, usable }, 0, kernels.scratch);
}
const textures = ({ holePixels, features }: Level): number[] =>
  [...new Set(holePixels)].map((i) => features[4 * i + 3]!);

test('a hole calmer than its surroundings is raised part of the way, on its own level and on finer ones', () => {
  const coarse = levelWith(40, 120, 20);
  const expected = expectTexture(coarse);
  for (const [level, halvings] of [
    [levelWith(40, 120, 20), 0],
    [levelWith(80, 120, 20), 1],
  ] as const) {
    leadTexture(level, expected, coarse.width, halvings, false);
    for (const t of textures(level)) {
      expect(t).toBeGreaterThan(40);
      expect(t).toBeLessThan(120);
    }
  }
});

test('a hole livelier than its surroundings is left as it is, and so is all that is known', () => {
  const level = levelWith(40, 30, 90);
  const before = level.features.slice();
  leadTexture(level, expectTexture(level), level.width, 0, false);
  expect(level.features).toEqual(before);
});

test('past the edge of the picture one much livelier is lowered part of the way, one hardly livelier is not', () => {
  const level = levelWith(40, 30, 90);
  leadTexture(level, expectTexture(level), level.width, 0, true);
  for (const t of textures(level)) {
    expect(t).toBeGreaterThan(45);
    expect(t).toBeLessThan(90);
  }
  const alike = levelWith(40, 60, 75);
  leadTexture(alike, expectTexture(alike), alike.width, 0, true);
  for (const t of textures(alike)) expect(t).toBe(75);
});

test('nothing but the texture measure changes, and only in the hole', () => {
  const level = levelWith(40, 120, 20);
  const before = level.features.slice();
  leadTexture(level, expectTexture(level), level.width, 0, false);
  const changed = new Set([...before.keys()].filter((k) => before[k] !== level.features[k]));
  expect(changed).toEqual(new Set(Array.from(level.holePixels, (i) => 4 * i + 3)));
});
