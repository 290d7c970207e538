import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf } from '../../../tests/support/pictures.ts';
import { boundsOf } from '../mask/mask.ts';
import { followOutlines, followedPaths, outlineWork, type RimPath } from './rimPath.ts';

const SIZE = 200;
const RING = maskOf(SIZE, SIZE, (x, y) => {
  const away = Math.hypot(x + 0.5 - 100, y + 0.5 - 100);
  return away < 70 && away > 30;
});
const paths = (step: number, { data } = RING): RimPath[] => {
  const work = outlineWork(data, SIZE, boundsOf({ width: SIZE, height: SIZE, data }), step, 3, kernels);
  followOutlines(work);
  return followedPaths(work);
};
const radiusAt = ({ x, y }: RimPath, i: number): number => Math.hypot(x[i]! - 100, y[i]! - 100);

test.each([1, 2, 4])('in steps of %i px the outlines of a ring are its two circles', (step) => {
  const found = paths(step).sort((a, b) => b.count - a.count);
  expect(found).toHaveLength(2);
  for (const [k, radius] of [70, 30].entries()) {
    const path = found[k]!;
    expect(path.count % 3).toBe(0);
    // Cut along squares a circle is up to a fifth longer.
    expect(path.count * step).toBeGreaterThan(2 * Math.PI * radius * 0.9);
    expect(path.count * step).toBeLessThan(2 * Math.PI * radius * 1.2);
    for (let i = 0; i < path.count; i++) expect(Math.abs(radiusAt(path, i) - radius)).toBeLessThan(1 + step);
  }
});

test('out of the part leads away from its middle along the outer circle, and towards it along the inner', () => {
  const [outer, inner] = paths(2).sort((a, b) => b.count - a.count);
  for (const [path, sense] of [
    [outer!, 1],
    [inner!, -1],
  ] as const) {
    for (let i = 0; i < path.count; i++) {
      const outward = (path.outX[i]! * (path.x[i]! - 100) + path.outY[i]! * (path.y[i]! - 100)) / radiusAt(path, i);
      expect(sense * outward).toBeGreaterThan(0.8);
    }
  }
});

test('a part too small to be followed has no path', () => {
  const speck = maskOf(SIZE, SIZE, (x, y) => x >= 50 && x < 53 && y >= 50 && y < 53);
  expect(paths(1, speck)).toHaveLength(0);
});
