import type { Warp } from '../core/geometry/warp.ts';
import { createMask } from '../core/mask/mask.ts';
import type { Reshape } from './computation.ts';
import { followSteps } from './followSteps.ts';
import type { Mark } from './marks/markSchema.ts';
import { markFromMask, maskUnder, renderMark } from './marks/renderMark.ts';
import { stepOf, type Step } from './recipe.ts';

const SOURCE = { width: 400, height: 300 };
const PLAIN = { growPx: 0, smoothPx: 0, featherPx: 0 };
const lasso = (...points: number[]): Mark => ({ ...PLAIN, shapes: [{ kind: 'lasso', combine: 'also', points }] });
const SQUARE = lasso(100, 100, 140, 100, 140, 140, 100, 140);

let count = 0;
const step = (type: string, params: object): Step => stepOf(`s${++count}`, type, params);
const frame = (x: number, y: number, width: number, height: number, change: object = {}): Step =>
  step('reframe', { frame: { rect: { x, y, width, height }, ...change } });
const clear = (mark: Mark): Step => step('clear', { mark });
const markOf = (made: Step): Mark => (made.params as unknown as { mark: Mark }).mark;
const pointsOf = (made: Step): number[] => (markOf(made).shapes[0] as { points: number[] }).points;

/** What becomes of later steps when the first of them is changed to another. */
const afterChange = (before: Step, to: object, later: Step[], known = {}) => {
  const changed: Step = { ...before, ...to };
  return followSteps([changed, ...later], changed, before, SOURCE, known);
};

test('lines that run on follow a frame in front of them, and are as wide as what they lie on becomes', () => {
  const runOn = [
    {
      points: [
        { x: 90, y: 120 },
        { x: 150, y: 121 },
      ],
      widthsPx: [4, 6],
      on: true,
    },
  ];
  const lineOf = ({ params }: Step) => (params as unknown as { runOn: typeof runOn }).runOn[0]!;
  const cleared = step('clear', { mark: SQUARE, runOn });
  const shifted = afterChange(frame(-20, 0, 420, 300), frame(-50, -10, 450, 310), [cleared]).steps[1]!;
  expect(lineOf(shifted)).toEqual({
    ...runOn[0],
    points: [
      { x: 120, y: 130 },
      { x: 180, y: 131 },
    ],
  });
  const enlarged = afterChange(step('enlarge', { width: 400, height: 300 }), { params: { width: 800, height: 600 } }, [
    cleared,
  ]);
  expect(lineOf(enlarged.steps[1]!).widthsPx.map(Math.round)).toEqual([8, 12]);
});

test('a frame with more room on the left and top shifts marks, placements and text by just that, none is resampled', () => {
  const before = frame(-20, 0, 420, 300);
  const painted: Mark = {
    ...PLAIN,
    shapes: markFromMask({ ...createMask(30, 20), data: new Uint8Array(600).fill(200) }, { x: 50, y: 60 }).shapes,
  };
  const moved = step('move', { mark: SQUARE, placement: { dxPx: 33, dyPx: -7 } });
  const { steps, kept } = afterChange(before, frame(-50, -10, 450, 310), [clear(painted), moved]);
  expect(kept).toEqual([]);
  expect(markOf(steps[1]!).shapes).toEqual([{ ...painted.shapes[0], x: 80, y: 70 }]);
  expect(pointsOf(steps[2]!)).toEqual([130, 110, 170, 110, 170, 150, 130, 150]);
  expect(steps[2]!.params).toMatchObject({ placement: { dxPx: 33, dyPx: -7 } });
});

test('a picture enlarged to twice its size has its marks, reaches, ways and letters twice as large', () => {
  const before = step('enlarge', { ...SOURCE });
  const stroke: Mark = {
    ...PLAIN,
    growPx: 6,
    shapes: [{ kind: 'stroke', combine: 'also', points: [100, 100, 130, 100], radiusPx: 9, hardness: 1, intensity: 1 }],
  };
  const letters = step('text', {
    text: 'Fair',
    face: '',
    align: 'left',
    lineHeight: 1,
    outline: 'M0 0L500 0L500 1000Z',
    block: { width: 500, height: 1000 },
    x: 40,
    y: 30,
    sizePx: 20,
    colour: '#ffffff',
    opacity: 1,
  });
  const moved = step('move', { mark: SQUARE, placement: { dxPx: 33, dyPx: -7 } });
  const { steps } = afterChange(before, { params: { ...before.params, width: 800, height: 600 } }, [
    clear(stroke),
    letters,
    moved,
  ]);
  expect(markOf(steps[1]!)).toMatchObject({ growPx: 12, shapes: [{ points: [200, 200, 260, 200], radiusPx: 18 }] });
  expect(steps[2]!.params).toMatchObject({ x: 80, y: 60, sizePx: 40 });
  expect(steps[3]!.params).toMatchObject({ placement: { dxPx: 66, dyPx: -14 } });
});

test('a mark follows a turned picture, outline and painted coverage alike', () => {
  const before = frame(0, 0, 400, 300);
  const area = createMask(40, 40);
  area.data.fill(255);
  const painted: Mark = { ...PLAIN, shapes: markFromMask(area, { x: 100, y: 100 }).shapes };
  const { steps, by } = afterChange(before, frame(0, 0, 400, 300, { turn: 0.2 }), [clear(SQUARE), clear(painted)]);
  const corner = by!.to({ x: 100, y: 100 });
  expect(Math.hypot(corner.x - 100, corner.y - 100)).toBeGreaterThan(10);
  expect(pointsOf(steps[1]!).slice(0, 2)).toEqual([corner.x, corner.y]);

  const whole = { x: 0, y: 0, ...SOURCE };
  const drawn = maskUnder(renderMark(markOf(steps[1]!), SOURCE), whole);
  const carried = maskUnder(renderMark(markOf(steps[2]!), SOURCE), whole);
  const coverage = (data: Uint8Array) => data.reduce((all, value) => all + value, 0) / 255;
  expect(coverage(drawn.data) / 1600).toBeCloseTo(1, 1);
  let apart = 0;
  drawn.data.forEach((value, k) => (apart += Math.abs(value - carried.data[k]!) / 255));
  // The two disagree at most by the soft rim of what was carried over.
  expect(apart).toBeLessThan(160);
});

test('behind another frame that stays where it was, a mark is led through both', () => {
  const before = frame(0, 0, 400, 300);
  const second = frame(-10, 0, 410, 300);
  const { steps } = afterChange(before, frame(-50, 0, 450, 300), [second, clear(SQUARE)]);
  // The second frame is around the same part of the picture as before, so that nothing has moved behind it.
  expect(steps[1]!.params).toMatchObject({ frame: { rect: { x: 40, width: 410 } } });
  expect(pointsOf(steps[2]!)).toEqual([100, 100, 140, 100, 140, 140, 100, 140]);
});

test('a step switched off is as if it weren’t there', () => {
  const before = frame(-50, 0, 450, 300);
  const { steps } = afterChange(before, { enabled: false }, [clear(SQUARE)]);
  expect(pointsOf(steps[1]!)).toEqual([50, 100, 90, 100, 90, 140, 50, 140]);
});

const stretched = (shift: number): Reshape => ({
  size: { width: 400 + shift, height: 300 },
  warps: [
    {
      kind: 'displaced',
      axis: 'x',
      width: 400 + shift,
      height: 300,
      columns: 3,
      rows: 2,
      shifts: Float32Array.from([0, -shift / 2, -shift, 0, -shift / 2, -shift]),
    } satisfies Warp,
  ],
});

test('marks follow a stretch as it was found in the picture; where it isn’t known they are kept, and named', () => {
  const before = step('stretch', { width: 440, height: 300 });
  const to = { params: { ...before.params, width: 480 } };
  const later = clear(lasso(220, 100, 264, 100, 264, 140));
  const found = { then: new Map([[before.id, stretched(40)]]), now: stretched(80) };
  const { steps, kept } = afterChange(before, to, [later], found);
  expect(kept).toEqual([]);
  expect(pointsOf(steps[1]!)[0]).toBeCloseTo(240, 3);
  expect(pointsOf(steps[1]!)[2]).toBeCloseTo(288, 3);

  const blind = afterChange(before, to, [later]);
  expect(blind.kept).toEqual([later]);
  expect(blind.steps[1]).toEqual(later);
});

test('a frame that stood upright can’t follow a turned picture: it is kept, and named', () => {
  const before = frame(0, 0, 400, 300);
  const second = frame(10, 10, 300, 200);
  const { steps, kept } = afterChange(before, frame(0, 0, 400, 300, { turn: 0.2 }), [second]);
  expect(kept).toEqual([second]);
  expect(steps[1]).toEqual(second);
});

test('what would lie beyond all bounds is kept instead of broken', () => {
  const before = step('enlarge', { width: 4, height: 3 });
  const { kept } = afterChange(before, { params: { ...before.params, width: 4000, height: 3000 } }, [
    clear(lasso(1e3, 0, 2e3, 0, 2e3, 9)),
  ]);
  expect(kept).toHaveLength(1);
});
