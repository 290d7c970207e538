import { EMPTY_DRAFT } from '../../../operations/draft.ts';
import { MOST_LINES, MOST_POINTS, type RunOnParams } from '../../../operations/rebuild/rebuildSchema.ts';
import { handlesOf, lineOverMark, linesInSight, widened, withNew } from './runOn.ts';

const line = (...points: (readonly [number, number])[]): RunOnParams => ({
  points: points.map(([x, y]) => ({ x, y })),
  widthsPx: [4, 8],
  on: true,
});
const report = (lines: RunOnParams[]) => ({
  planes: [],
  lines,
  used: { x: 0, y: 0, side: 4, width: 0, height: 0, cells: new Uint8Array(0) },
  growthAdvisedPx: 0,
  poorSurroundings: false,
});

test('lines set by hand are shown before those sketched, those before what a take found', () => {
  const [set, sketched, found] = [line([0, 0], [1, 0]), line([0, 0], [2, 0]), line([0, 0], [3, 0])];
  const reports = new Map([['even/1', report([found])]]);
  const sketch = { patches: [], lines: [sketched], of: '' };
  expect(linesInSight(EMPTY_DRAFT, { reports, sketch: undefined })).toEqual([found]);
  expect(linesInSight(EMPTY_DRAFT, { reports, sketch })).toEqual([sketched]);
  expect(linesInSight({ ...EMPTY_DRAFT, runOn: [set] }, { reports, sketch })).toEqual([set]);
  expect(linesInSight({ ...EMPTY_DRAFT, runOn: [] }, { reports, sketch })).toEqual([]);
});

test('a line is taken hold of at its points, and bent halfway between them as long as it may have more', () => {
  const bent = line([0, 0], [100, 60], [200, 0]);
  const handles = handlesOf(bent, 3);
  expect(handles.filter(({ isNew }) => !isNew).map(({ at }) => at)).toEqual(bent.points);
  const between = handles.filter(({ isNew }) => isNew);
  expect(between.map(({ point }) => point)).toEqual([1, 2]);
  // On the curve, which bulges past the chord.
  expect(between[0]!.at.x).toBeGreaterThan(30);
  expect(between[0]!.at.x).toBeLessThan(70);
  expect(between[0]!.at.y).toBeGreaterThan(30);
  const full = line(...Array.from({ length: MOST_POINTS }, (_, k) => [10 * k, 0] as const));
  expect(handlesOf(full, 0).some(({ isNew }) => isNew)).toBe(false);
});

test('a new line crosses the mark from side to side, and is kept however many there are', () => {
  const over = lineOverMark({ x: 100, y: 40, width: 200, height: 80 });
  expect(over.points[0]!.x).toBeLessThan(100);
  expect(over.points[1]!.x).toBeGreaterThan(300);
  expect(over.points.map(({ y }) => y)).toEqual([80, 80]);
  const full = Array.from({ length: MOST_LINES }, () => line([0, 0], [9, 0]));
  const more = withNew(full, over);
  expect(more).toHaveLength(MOST_LINES);
  expect(more.at(-1)).toEqual(over);
});

test('a band becomes wider at both ends in proportion, an outline becomes a band', () => {
  expect(widened(line([0, 0], [9, 0]), 12).widthsPx).toEqual([8, 16]);
  expect(widened({ ...line([0, 0], [9, 0]), widthsPx: [0, 0] }, 5).widthsPx).toEqual([5, 5]);
});
