import { pictureOf } from '../../../../../tests/support/pictures.ts';
import { findEdgeWays } from '../../../../core/segment/edgeWays.ts';
import type { EdgeWindow } from '../../../../operations/marks/edgeWindow.ts';
import { followEdges } from './followEdges.ts';
import type { MarkShape } from '../../../../operations/marks/markSchema.ts';
import { MOST_POINTS, type RunOnParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import type { Rect } from '../../../../core/image/rect.ts';
import { dragFrame, type FrameGrip } from '../../../kinds/framing/dragFrame.ts';
import { drawLine } from '../../../kinds/reframe/drawLine.ts';
import { dragCorner } from './dragCorner.ts';
import { dragLine } from './dragLine.ts';
import { drawRunOn } from './drawRunOn.ts';
import { drawLasso } from './drawLasso.ts';
import { paintStroke } from './paintStroke.ts';
import { dragHorizon } from '../../../kinds/placing/dragHorizon.ts';
import { drawFrame } from './drawFrame.ts';
import { dragShift } from '../../../kinds/dragging/dragShift.ts';
import { setCorners } from './setCorners.ts';

test('a lasso is closed where the pen is lifted, with points that do not matter left out', () => {
  const done: MarkShape[] = [];
  const gesture = drawLasso({ x: 0, y: 0 }, 'also', 0.5, (shape) => done.push(shape));
  for (let x = 1; x <= 100; x++) gesture.move({ x, y: 0 });
  gesture.move({ x: 100, y: 80 });
  expect(gesture.live()).toMatchObject({ kind: 'lasso' });
  gesture.end();
  expect(done).toEqual([{ kind: 'lasso', combine: 'also', points: [0, 0, 100, 0, 100, 80] }]);
});

test('a slip of the hand and a cancelled lasso mark nothing', () => {
  const done: MarkShape[] = [];
  const slip = drawLasso({ x: 5, y: 5 }, 'also', 0.5, (shape) => done.push(shape));
  slip.move({ x: 6, y: 5 });
  slip.move({ x: 6, y: 6 });
  slip.end();
  const left = drawLasso({ x: 0, y: 0 }, 'also', 0.5, (shape) => done.push(shape));
  left.move({ x: 90, y: 0 });
  left.move({ x: 90, y: 90 });
  left.cancel();
  expect(done).toEqual([]);
});

test('a touch of the brush is a dab', () => {
  const done: MarkShape[] = [];
  paintStroke({ x: 7, y: 8 }, 'without', { radiusPx: 12, hardness: 0.5, intensity: 1 }, (shape) =>
    done.push(shape),
  ).end();
  expect(done).toEqual([
    { kind: 'stroke', combine: 'without', points: [7, 8], radiusPx: 12, hardness: 0.5, intensity: 1 },
  ]);
});

test('a subject is dragged on from where it was put, by whole px; a touch does not move it', () => {
  const done: unknown[] = [];
  const from = (shift: object) => ({ from: shift });
  const gesture = dragShift({ x: 10, y: 10 }, { dxPx: 100, dyPx: 0 }, from, (change) => done.push(change));
  gesture.move({ x: 14.4, y: 7.2 });
  expect(gesture.live()).toEqual({ kind: 'change', change: { from: { dxPx: 104, dyPx: -3 } } });
  gesture.end();
  dragShift({ x: 1, y: 1 }, { dxPx: 5, dyPx: 5 }, from, (change) => done.push(change)).end();
  expect(done).toEqual([{ from: { dxPx: 104, dyPx: -3 } }]);
});

test('a plane’s corner goes where it is dragged; a touch leaves it', () => {
  const done: unknown[] = [];
  const gesture = dragCorner(1, 2, (at) => done.push(at));
  gesture.end();
  expect(done).toEqual([]);
  gesture.move({ x: 8, y: 9 });
  expect(gesture.live()).toEqual({ kind: 'corner', plane: 1, corner: 2, at: { x: 8, y: 9 } });
  gesture.end();
  expect(done).toEqual([{ x: 8, y: 9 }]);
});

test('a box is pulled up from corner to corner, an ellipse lies within it; a slip draws nothing', () => {
  const done: MarkShape[] = [];
  const box = drawFrame('box', { x: 10, y: 10 }, 'also', (shape) => done.push(shape));
  box.move({ x: 40, y: 30 });
  box.end();
  const ellipse = drawFrame('ellipse', { x: 40, y: 30 }, 'also', (shape) => done.push(shape));
  ellipse.move({ x: 10, y: 10 });
  ellipse.end();
  drawFrame('box', { x: 1, y: 1 }, 'also', (shape) => done.push(shape)).end();
  expect(done).toHaveLength(2);
  expect(done[0]).toMatchObject({ points: [10, 10, 40, 10, 40, 30, 10, 30] });
  const { points } = done[1] as { points: number[] };
  for (let i = 0; i < points.length; i += 2) {
    expect(((points[i]! - 25) / 15) ** 2 + ((points[i + 1]! - 20) / 10) ** 2).toBeCloseTo(1, 1);
  }
});

test('corners are set one by one, until the first is touched again', () => {
  const done: MarkShape[] = [];
  const gesture = setCorners({ x: 0, y: 0 }, 'also', 5, (shape) => done.push(shape));
  gesture.set({ x: 50, y: 0 });
  gesture.set({ x: 90, y: 90 });
  gesture.back();
  gesture.set({ x: 50, y: 50 });
  expect(gesture.goesOn!()).toBe(true);
  gesture.set({ x: 2, y: 1 });
  expect(gesture.goesOn!()).toBe(false);
  gesture.end();
  expect(done).toMatchObject([{ points: [0, 0, 50, 0, 50, 50] }]);
});

test('a dragged horizon ends where it was left; a touch leaves it', () => {
  const done: unknown[] = [];
  const settle = (horizonPx: number) => ({ horizonPx });
  dragHorizon(settle, (change) => done.push(change)).end();
  const gesture = dragHorizon(settle, (change) => done.push(change));
  gesture.move({ x: 5, y: 61.4 });
  gesture.end();
  expect(done).toEqual([{ horizonPx: 61 }]);
});

const RECT = { x: 0, y: 0, width: 300, height: 200 };
const FREE = { ratio: undefined, stops: { x: [400], y: [0, 200] }, nearPx: 6 };
const dragged = (grip: FrameGrip, to: { x: number; y: number }, options = {}, held = { shift: false, alt: false }) => {
  const done: Rect[] = [];
  const from = { x: ((grip.x + 1) / 2) * 300, y: ((grip.y + 1) / 2) * 200 };
  const gesture = dragFrame(
    RECT,
    grip,
    from,
    { ...FREE, ...options },
    (rect) => rect,
    (rect) => done.push(rect as Rect),
  );
  gesture.move(to, held);
  gesture.end();
  return done[0];
};

test('a frame is dragged by its side, comes to rest at the photo’s edge, and takes the other side along', () => {
  expect(dragged({ x: 1, y: 0 }, { x: 350, y: 90 })).toEqual({ ...RECT, width: 350 });
  expect(dragged({ x: 1, y: 0 }, { x: 396, y: 90 })).toEqual({ ...RECT, width: 400 });
  expect(dragged({ x: 1, y: 0 }, { x: 396, y: 90 }, {}, { shift: false, alt: true })).toEqual({ ...RECT, width: 396 });
  expect(dragged({ x: 1, y: 0 }, { x: 350, y: 90 }, {}, { shift: true, alt: false })).toEqual({
    ...RECT,
    x: -50,
    width: 400,
  });
  expect(dragged({ x: 0, y: 0 }, { x: 170, y: 102 })).toEqual({ ...RECT, x: 20 });
});

test('a frame keeps its ratio, and never turns inside out', () => {
  const ratio = { ratio: 1.5 };
  expect(dragged({ x: 1, y: 1 }, { x: 450, y: 210 }, ratio)).toEqual({ ...RECT, width: 450, height: 300 });
  expect(dragged({ x: -1, y: 0 }, { x: -150, y: 100 }, ratio)).toEqual({ x: -150, y: -50, width: 450, height: 300 });
  const crossed = dragged({ x: 1, y: 0 }, { x: -40, y: 0 })!;
  expect(crossed.width).toBeGreaterThanOrEqual(1);
});

test('a slip is no line', () => {
  const lines: unknown[] = [];
  const slip = drawLine({ x: 5, y: 5 }, 10, (line) => lines.push(line));
  slip.move({ x: 9, y: 5 });
  slip.end();
  const line = drawLine({ x: 5, y: 5 }, 10, (drawn) => lines.push(drawn));
  line.move({ x: 50, y: 8 });
  line.end();
  expect(lines).toEqual([{ from: { x: 5, y: 5 }, to: { x: 50, y: 8 } }]);
});

/** A grey disc of radius 30 around (50, 50), with the ways along its edge from any point. */
const disc = pictureOf(100, 100, (x, y) => {
  const value = Math.hypot(x - 49.5, y - 49.5) < 30 ? 180 : 60;
  return [value, value, value];
});
const along = { nearPx: 4, drawnPx: 5, tolerancePx: 0.5, repaint: () => undefined };
const waysFrom = async ({ x, y }: { x: number; y: number }): Promise<EdgeWindow> => ({
  ways: findEdgeWays(disc, Math.floor(x), Math.floor(y)),
  x: 0,
  y: 0,
  step: 1,
});
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));
const areaOf = (points: readonly number[]): number => {
  let twice = 0;
  for (let i = 0; i < points.length; i += 2) {
    const [u, v] = [points[(i + 2) % points.length]!, points[(i + 3) % points.length]!];
    twice += points[i]! * v - u * points[i + 1]!;
  }
  return Math.abs(twice) / 2;
};

test('along edges, a few points beside its outline mark the whole thing', async () => {
  const done: MarkShape[] = [];
  const gesture = followEdges({ x: 80, y: 50 }, 'also', { ...along, waysFrom }, (shape) => done.push(shape));
  // Set before the ways from the first are known, and not quite on the edge.
  gesture.set({ x: 50, y: 83 });
  await settled();
  gesture.set({ x: 17, y: 50 });
  await settled();
  gesture.set({ x: 3, y: 3 });
  gesture.back();
  gesture.set({ x: 50, y: 18 });
  gesture.set({ x: 79, y: 51 });
  expect(gesture.goesOn!()).toBe(false);
  gesture.end();
  await settled();
  const [shape] = done as [Extract<MarkShape, { kind: 'lasso' }>];
  expect(areaOf(shape.points) / (Math.PI * 30 ** 2)).toBeGreaterThan(0.95);
  expect(areaOf(shape.points) / (Math.PI * 30 ** 2)).toBeLessThan(1.05);
});

test('where no ways can be found the outline runs straight; two points mark nothing', async () => {
  const done: MarkShape[] = [];
  const none = { ...along, waysFrom: () => Promise.reject(new Error('gone')) };
  const gesture = followEdges({ x: 0, y: 0 }, 'also', none, (shape) => done.push(shape));
  gesture.set({ x: 60, y: 0 });
  gesture.set({ x: 60, y: 40 });
  gesture.end();
  followEdges({ x: 0, y: 0 }, 'also', none, (shape) => done.push(shape)).end();
  await settled();
  expect(done).toHaveLength(1);
  expect(areaOf((done[0] as { points: number[] }).points)).toBe(1200);
});

const line = (...xs: number[]): RunOnParams => ({ points: xs.map((x) => ({ x, y: 0 })), widthsPx: [0, 0], on: true });

test('a line drawn about straight has two points, a bent one few more; a touch draws none', () => {
  const drawn = (at: (share: number) => { x: number; y: number }): RunOnParams[] => {
    const done: RunOnParams[] = [];
    const limits = { tolerancePx: 3, shortestPx: 12 };
    const gesture = drawRunOn(at(0), [line(0, 5)], limits, (lines) => void done.push(...lines.slice(1)));
    for (let k = 1; k <= 40; k++) gesture.move(at(k / 40));
    gesture.end();
    return done;
  };
  expect(drawn((share) => ({ x: 200 * share, y: Math.sin(40 * share) }))[0]!.points).toHaveLength(2);
  const bent = drawn((share) => ({ x: 200 * share, y: 60 * Math.sin(3 * share) }))[0]!.points;
  expect(bent.length).toBeGreaterThan(2);
  expect(bent.length).toBeLessThanOrEqual(MOST_POINTS);
  expect(drawn((share) => ({ x: 4 * share, y: 0 }))).toEqual([]);
});

test('dragging a point moves it alone, dragging between two sets another; a touch does nothing', () => {
  const done: RunOnParams[][] = [];
  const lines = [line(0, 100), line(0, 50, 100)];
  const drag = (point: number, isNew: boolean) =>
    dragLine(lines, { line: 0, point, isNew }, (moved) => done.push(moved));
  const end = drag(1, false);
  end.move({ x: 90, y: 20 });
  expect(end.live()).toEqual({
    kind: 'runOn',
    lines: [
      {
        ...lines[0]!,
        points: [
          { x: 0, y: 0 },
          { x: 90, y: 20 },
        ],
      },
      lines[1],
    ],
  });
  end.end();
  const middle = drag(1, true);
  middle.move({ x: 50, y: 30 });
  middle.end();
  expect(done.map(([first]) => first!.points.map(({ y }) => y))).toEqual([
    [0, 20],
    [0, 30, 0],
  ]);
  drag(0, false).end();
  expect(done).toHaveLength(2);
});
