import { cutSlack, type SlackScene } from './slackCut.ts';

const SIZE = 60;
const plane = (value: (distance: number) => number): Float32Array =>
  Float32Array.from({ length: SIZE * SIZE }, (_, i) => value(Math.hypot((i % SIZE) - 30, Math.floor(i / SIZE) - 30)));

/** A disc of radius 8 marked up to a radius of 26, the grounds differing by so many levels at each distance from it. */
const scene = (difference: (distance: number) => number, change: Partial<SlackScene> = {}): SlackScene => ({
  width: SIZE,
  height: SIZE,
  matte: plane((d) => (d < 8 ? 1 : 0)),
  mark: plane((d) => (d < 26 ? 1 : 0)),
  difference: plane(difference),
  ...change,
});

/** What comes along at a distance to the right of the middle. */
const at = (brought: Float32Array, distance: number): number => brought[30 * SIZE + 30 + distance]!;

test('the old ground is cut where it is like the new one', () => {
  const { brought } = cutSlack(
    scene((d) => (d > 14 && d < 19 ? 0 : 40)),
    0.5,
  );
  expect([0, 10, 13].map((d) => at(brought, d))).toEqual([1, 1, 1]);
  expect([20, 24, 28].map((d) => at(brought, d))).toEqual([0, 0, 0]);
});

test('on ground unlike its own a subject comes alone, and that costs what its outline is trusted with', () => {
  const { brought, cost } = cutSlack(
    scene(() => 60),
    0.5,
  );
  expect(at(brought, 7)).toBe(1);
  expect(at(brought, 9)).toBe(0);
  expect(cost).toBeCloseTo(11, 5);
  // A seam that is hardly seen costs less.
  expect(
    cutSlack(
      scene((d) => (d > 14 && d < 19 ? 0 : 60)),
      0.5,
    ).cost,
  ).toBeLessThan(4);
});

test('nothing comes along at closeness 0, all of the mark at 1, and never less the closer', () => {
  const uneven = scene((d) => 20 + 15 * Math.sin(d));
  const taken = [0, 0.2, 0.4, 0.5, 0.6, 0.8, 0.95, 1].map((closeness) => cutSlack(uneven, closeness).brought);
  taken.slice(1).forEach((more, k) => more.forEach((share, i) => expect(share).toBeGreaterThanOrEqual(taken[k]![i]!)));
  const area = (brought: Float32Array): number => brought.reduce((sum, share) => sum + share, 0);
  expect(area(taken[0]!)).toBe(uneven.matte.reduce((sum, share) => sum + share, 0));
  expect(area(taken[7]!)).toBe(uneven.mark.reduce((sum, share) => sum + share, 0));
});

test('what the matte is unsure of comes along where it stands out from the place', () => {
  const matte = plane((d) => (d < 8 ? 1 : d < 12 ? 0.5 : 0));
  const { brought } = cutSlack(
    scene((d) => (d < 12 ? 50 : 2), { matte }),
    0.5,
  );
  expect(at(brought, 11)).toBe(1);
  expect(at(brought, 15)).toBe(0);
});
