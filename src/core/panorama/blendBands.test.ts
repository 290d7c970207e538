import { noise } from '../../../tests/support/pictures.ts';
import { blendBands, type BlendLayer } from './blendBands.ts';
import { doublePlane, halvePlane } from './halfPlanes.ts';

const SIZE = { width: 128, height: 40 };
const N = SIZE.width * SIZE.height;

const planeOf = (value: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: N }, (_, i) => value(i % SIZE.width, Math.floor(i / SIZE.width)));
const grey = (plane: Float32Array): BlendLayer['planes'] => [plane, plane.slice(), plane.slice()];
const left = planeOf((x) => (x < 64 ? 1 : 0));
const right = planeOf((x) => (x < 64 ? 0 : 1));
const all = new Uint8Array(N).fill(1);

/** Two layers joined down the middle: what the blended picture shows. */
function blended(a: Float32Array, b: Float32Array, levels: number): Float32Array {
  const hard = planeOf((x, y) => (x < 64 ? a : b)[y * SIZE.width + x]!);
  const layers = [
    { planes: grey(a), covered: all, chosen: left },
    { planes: grey(b), covered: all, chosen: right },
  ];
  const [added] = blendBands(layers, grey(hard), SIZE, levels);
  return hard.map((value, i) => value + added[i]!);
}
const middleRow = (plane: Float32Array): Float32Array => plane.slice(20 * SIZE.width, 21 * SIZE.width);

test('where both pictures are alike nothing changes', () => {
  const grain = noise(4, 30);
  const picture = planeOf(() => 120 + grain());
  expect(blended(picture, picture, 4)).toEqual(picture);
});

test('a step in tone becomes a slope over about the reach of the coarsest band, and far off nothing changes', () => {
  const row = middleRow(
    blended(
      planeOf(() => 100),
      planeOf(() => 140),
      3,
    ),
  );
  let steepest = 0;
  for (let x = 1; x < SIZE.width; x++) {
    expect(row[x]! - row[x - 1]!).toBeGreaterThan(-0.01);
    steepest = Math.max(steepest, row[x]! - row[x - 1]!);
  }
  expect(steepest).toBeLessThan(5);
  expect(row[8]).toBeCloseTo(100, 1);
  expect(row[120]).toBeCloseTo(140, 1);
});

test('detail is not crossed over with tone: fine stripes of one side end within some px of the seam', () => {
  const row = middleRow(
    blended(
      planeOf((x) => 120 + (x % 2 === 0 ? 20 : -20)),
      planeOf(() => 120),
      4,
    ),
  );
  expect(Math.abs(row[50]! - row[51]!)).toBeGreaterThan(35);
  expect(Math.abs(row[74]! - row[75]!)).toBeLessThan(3);
});

test('halved and doubled a slope is itself again, and fine stripes are gone', () => {
  const slope = planeOf((x) => x);
  const again = doublePlane(halvePlane(slope, SIZE), SIZE);
  for (let x = 8; x < 120; x++) expect(again[20 * SIZE.width + x]).toBeCloseTo(x, 3);
  const flat = doublePlane(
    halvePlane(
      planeOf((x) => (x % 2 === 0 ? 40 : 0)),
      SIZE,
    ),
    SIZE,
  );
  for (let x = 8; x < 120; x++) expect(flat[20 * SIZE.width + x]).toBeCloseTo(20, 3);
});
