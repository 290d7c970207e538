import { handicapAmid, handicapOnPlanes, rankOf, repeatsOnPlanes } from './rank.ts';

const FAIR = {
  detailError: 0.3,
  toneError: 0.2,
  seamError: 0.05,
  rimError: 0.1,
  lineError: 0.3,
  repeatShare: 0.1,
  cutLength: 0.2,
};

test('a take falls behind by each fault that it has more of than another, and by the handicap of its way of making', () => {
  for (const fault of ['detailError', 'toneError', 'seamError', 'rimError', 'lineError', 'repeatShare'] as const) {
    expect(rankOf({ ...FAIR, [fault]: 2 * FAIR[fault] }, 0, false)).toBeGreaterThan(rankOf(FAIR, 0, false));
  }
  expect(rankOf(FAIR, 0.1, false) - rankOf(FAIR, 0, false)).toBeCloseTo(0.1);
});

test('a rim that stands out weighs more than somewhat livelier detail', () => {
  const outlined = { ...FAIR, rimError: 0.6 };
  const lively = { ...FAIR, detailError: 0.6 };
  expect(rankOf(outlined, 0, false)).toBeGreaterThan(rankOf(lively, 0, false));
});

test('past the edge of the picture detail counts less against the way of making, and the rim as much', () => {
  const more = (fault: 'detailError' | 'rimError', pastEdge: boolean): number =>
    rankOf({ ...FAIR, [fault]: 2 * FAIR[fault] }, 0, pastEdge) - rankOf(FAIR, 0, pastEdge);
  expect(more('detailError', true)).toBeLessThan(0.5 * more('detailError', false));
  expect(more('rimError', true)).toBeCloseTo(more('rimError', false));
});

test('past the edge of the picture what is cut off counts against a take, amid known pixels it does not', () => {
  const cut = { ...FAIR, cutLength: 0.8 };
  expect(rankOf(cut, 0, true)).toBeGreaterThan(rankOf({ ...FAIR, rimError: 0.3 }, 0, true));
  expect(rankOf(cut, 0, false)).toBe(rankOf(FAIR, 0, false));
});

test('a handicap counts whole amid texture, in part amid less, and not at all on an even ground', () => {
  expect(handicapAmid(20, 0.3)).toBe(0.3);
  const faint = handicapAmid(1, 0.3);
  expect(faint).toBeGreaterThan(0);
  expect(handicapAmid(2, 0.3)).toBeCloseTo(2 * faint);
  expect(handicapAmid(0, 0.3)).toBe(0);
});

test('a take along planes is preferred for its lines, though not once it lacks more detail than resampling takes', () => {
  const offBy = (detailError: number): number => handicapOnPlanes(1, detailError);
  expect(offBy(0.1)).toBe(offBy(0.3));
  expect(offBy(0.3)).toBeLessThan(offBy(0.5));
  expect(offBy(0.5)).toBeLessThan(0);
  expect(offBy(0.7)).toBeCloseTo(0);
});

test('boards and bricks are alike: along planes many repeats count no more than the usual, few count half for the take', () => {
  expect(repeatsOnPlanes(0.4)).toBe(repeatsOnPlanes(0.2));
  const usual = repeatsOnPlanes(0.4);
  expect(repeatsOnPlanes(0)).toBeCloseTo(usual / 2);
  expect(repeatsOnPlanes(usual / 2)).toBeCloseTo((3 / 4) * usual);
});

test('the less of a place lies on planes, the less a take along them is preferred; most of it is as good as all', () => {
  expect(handicapOnPlanes(0.8, 0.2)).toBe(handicapOnPlanes(1, 0.2));
  expect(handicapOnPlanes(0.4, 0.2)).toBeGreaterThan(handicapOnPlanes(1, 0.2));
  expect(handicapOnPlanes(0.2, 0.2)).toBeCloseTo(handicapOnPlanes(0.4, 0.2) / 2);
});
