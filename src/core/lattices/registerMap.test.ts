import { applyHomography, multiplyHomographies, type Homography } from '../geometry/homography.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { detailField } from './detailField.ts';
import { pointsAround } from './points.ts';
import { registerMap } from './registerMap.ts';

const SIZE = 200;
/** A step along a plane whose vanishing line lies far above: the farther up, the shorter. */
const AROUND = { x: 80, y: 100, reach: 60 };
const [STEP_X, LINE_Y] = [30, 0.0025];
const STEP: Homography = multiplyHomographies(
  [1, 0, AROUND.x, 0, 1, AROUND.y, 0, 0, 1],
  multiplyHomographies([1, STEP_X * LINE_Y, STEP_X, 0, 1, 0, 0, 0, 1], [1, 0, -AROUND.x, 0, 1, -AROUND.y, 0, 0, 1]),
);

/** A picture that looks the same where `STEP` leads from each of its places: waves whose length is that step's. */
function repeating(): RasterImage {
  const data = new Uint8ClampedArray(4 * SIZE * SIZE);
  for (let i = 0; i < SIZE * SIZE; i++) {
    const [x, y] = [(i % SIZE) + 0.5, Math.floor(i / SIZE) + 0.5];
    const long = STEP_X * (1 + LINE_Y * (y - AROUND.y));
    const level = 128 + 60 * Math.sin((2 * Math.PI * (x - AROUND.x)) / long) * Math.cos(y / 4);
    data.set([level, level, level, 255], 4 * i);
  }
  return { width: SIZE, height: SIZE, data };
}

const field = detailField(repeating(), new Uint8Array(SIZE * SIZE) as never, 1);
const points = pointsAround(field, AROUND, AROUND.reach, 1500);

/** How far two maps lead apart at most, near where they were fitted. */
const apart = (a: Homography, b: Homography): number =>
  Math.max(
    ...[-1, 0, 1].flatMap((v) =>
      [-1, 0, 1].map((u) => {
        const [p, q] = [a, b].map((map) => applyHomography(map, AROUND.x + 50 * u, AROUND.y + 50 * v));
        return Math.hypot(p!.x - q!.x, p!.y - q!.y);
      }),
    ),
  );

test.each(['step', 'any'] as const)('a map in perspective is found within a fifth of a px (%s)', (freedom) => {
  const start: Homography = [1, 0, STEP_X + 1.5, 0, 1, -1, 0, 0, 1];
  expect(apart(start, STEP)).toBeGreaterThan(4);
  expect(apart(registerMap(field, points, start, freedom, AROUND)!, STEP)).toBeLessThan(0.2);
});

test('a map that leads out of the picture is none', () => {
  expect(registerMap(field, points, [1, 0, 400, 0, 1, 0, 0, 0, 1], 'step', AROUND)).toBeUndefined();
});
