import { pictureOf, noise } from '../../../tests/support/pictures.ts';
import { hueAround, hueContrasts, materialEdge, type Hue, type PlacedHue } from './materialEdge.ts';

const BRICK: Hue = [0.44, 0.24];
const STONE: Hue = [0.35, 0.31];
const WOOD: Hue = [0.4, 0.2];
const ALL = [-150, 150] as const;

/** Squares over heights -150 to 150, four at each, with a little scatter. */
function squares(hueAt: (height: number) => Hue): PlacedHue[] {
  const scatter = noise(3, 9);
  return Array.from({ length: 1200 }, (_, k) => {
    const height = (k >> 2) - 150;
    const [red, blue] = hueAt(height);
    return { height, along: k % 4, hue: [red + scatter() / 1000, blue + scatter() / 1000] };
  });
}

test('the height at which bricks end and stones begin is found to two px', () => {
  for (const edge of [-60, 7, 55]) {
    const found = materialEdge(
      squares((height) => (height < edge ? BRICK : STONE)),
      ALL,
    );
    expect(Math.abs(found! - edge)).toBeLessThanOrEqual(2);
  }
});

test('specks of the other material on either side do not move it', () => {
  let k = 0;
  const found = materialEdge(
    squares((height) => (height < 20 !== (k++ % 4 === 0) ? BRICK : STONE)),
    ALL,
  );
  expect(Math.abs(found! - 20)).toBeLessThanOrEqual(4);
});

test('one material has no edge, and of two edges alike neither is believed', () => {
  expect(
    materialEdge(
      squares(() => BRICK),
      ALL,
    ),
  ).toBeUndefined();
  expect(
    materialEdge(
      squares((height) => (Math.abs(height) < 75 ? BRICK : STONE)),
      ALL,
    ),
  ).toBeUndefined();
  expect(materialEdge([], ALL)).toBeUndefined();
});

test('things of the other hue that stand before a third of the edge do not hide it; before most of it they do', () => {
  const behindThings = (share: number) =>
    squares((height) => (height < 20 ? BRICK : STONE)).map((square, k) => {
      const along = (k * 37) % 600;
      const isThing = along < share * 600 && Math.abs(square.height - 30) < 60;
      return { ...square, along, hue: isThing ? (square.height < 20 ? STONE : BRICK) : square.hue };
    });
  expect(Math.abs(materialEdge(behindThings(1 / 3), ALL)! - 20)).toBeLessThanOrEqual(6);
  expect(materialEdge(behindThings(0.8), ALL)).toBeUndefined();
});

test('another edge that lies beyond the heights looked at does not count', () => {
  const two = squares((height) => (Math.abs(height) < 75 ? BRICK : STONE));
  expect(Math.abs(materialEdge(two, [20, 140])! - 75)).toBeLessThanOrEqual(2);
});

test('a lesser change elsewhere leaves the main one believed', () => {
  const found = materialEdge(
    squares((height) => (height < -70 ? WOOD : height < 40 ? BRICK : STONE)),
    ALL,
  );
  expect(Math.abs(found! - 40)).toBeLessThanOrEqual(2);
});

test('contrast is the distance between the hues of both sides, and nothing far from edges', () => {
  const contrasts = hueContrasts(squares((height) => (height < 0 ? BRICK : STONE)));
  const at = (height: number) => contrasts.find((c) => Math.abs(c.height - height) < 3)!.contrast;
  expect(at(0)).toBeCloseTo(Math.hypot(0.09, 0.07), 2);
  expect(at(-90)).toBeLessThan(0.005);
});

test('a hue is the same in light and in shadow', () => {
  const picture = pictureOf(60, 30, (x) => (x < 30 ? [200, 120, 80] : [100, 60, 40]));
  const [lit, shaded] = [hueAround(picture, { x: 12, y: 15 }, 8), hueAround(picture, { x: 45, y: 15 }, 8)];
  expect(lit[0]).toBeCloseTo(0.5, 2);
  expect(lit[1]).toBeCloseTo(0.2, 2);
  expect(Math.hypot(lit[0] - shaded[0], lit[1] - shaded[1])).toBeLessThan(0.005);
});
