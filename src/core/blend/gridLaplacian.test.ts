import { kernels } from '../../../tests/support/kernels.ts';
import { createRandom } from '../numeric/random.ts';
import { solveGrid, type GridSystem } from './gridLaplacian.ts';

function randomSystem(width: number, height: number, seed: number): GridSystem {
  const random = createRandom(seed);
  const share = () => random.below(1000) / 1000;
  const n = width * height;
  const system = {
    width,
    height,
    right: new Float32Array(n),
    down: new Float32Array(n),
    extra: new Float32Array(n),
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) system.right[i] = 0.2 + share();
      if (y + 1 < height) system.down[i] = 0.2 + share();
      system.extra[i] = 0.01 + 0.1 * share();
    }
  }
  return system;
}

/** The values as the first of the solver's four lanes. */
function inFirstLane(values: Float32Array): Float32Array {
  const out = new Float32Array(4 * values.length);
  values.forEach((value, i) => (out[4 * i] = value));
  return out;
}
const firstLane = (lanes: Float32Array): number[] => Array.from(lanes.filter((_, i) => i % 4 === 0));

beforeEach(() => kernels.reset());

/** The left side of the system for given values. */
function multiply({ width, height, right, down, extra }: GridSystem, u: Float32Array): Float32Array {
  return Float32Array.from(u, (value, i) => {
    const x = i % width;
    let sum = extra[i]! * value;
    if (x + 1 < width) sum += right[i]! * (value - u[i + 1]!);
    if (x > 0) sum += right[i - 1]! * (value - u[i - 1]!);
    if (i + width < width * height) sum += down[i]! * (value - u[i + width]!);
    if (i >= width) sum += down[i - width]! * (value - u[i - width]!);
    return sum;
  });
}

test('gives back the values that a right-hand side was made from', () => {
  const system = randomSystem(45, 31, 3);
  const truth = Float32Array.from({ length: 45 * 31 }, (_, i) => 20 * Math.sin(i / 7) + (i % 45));
  const solved = firstLane(solveGrid(system, inFirstLane(multiply(system, truth)), kernels, 1e-6, 60));
  // Single precision over 1,395 unknowns.
  solved.forEach((value, i) => expect(Math.abs(value - truth[i]!)).toBeLessThan(0.01));
});

test('a membrane between two fixed ends is a straight ramp', () => {
  const width = 9;
  const system = {
    width,
    height: 1,
    right: new Float32Array(width).fill(1, 0, width - 1),
    down: new Float32Array(width),
    extra: new Float32Array(width),
  };
  // Fixed neighbours of value 0 on the left and 100 on the right.
  system.extra[0] = 1;
  system.extra[width - 1] = 1;
  const rightSide = new Float32Array(width);
  rightSide[width - 1] = 100;
  const solved = firstLane(solveGrid(system, inFirstLane(rightSide), kernels, 1e-6, 50));
  solved.forEach((value, i) => expect(value).toBeCloseTo(10 * (i + 1), 2));
});

test('pixels outside the domain stay 0', () => {
  const system = {
    width: 3,
    height: 1,
    right: new Float32Array(3),
    down: new Float32Array(3),
    extra: Float32Array.from([1, 0, 2]),
  };
  const rightSide = inFirstLane(Float32Array.from([4, 99, 4]));
  expect(firstLane(solveGrid(system, rightSide, kernels))).toEqual([4, 0, 2]);
});
