import { projectOf } from '../../../tests/support/project.ts';
import { wholeOf, type Rect } from '../../core/image/rect.ts';
import { maskUnder, renderMark } from '../../operations/marks/renderMark.ts';
import { benchActions as actions, benchSlice } from './benchSlice.ts';
import type { BenchState } from './benchState.ts';

const photo = { width: 240, height: 160 };
type Action = Parameters<typeof benchSlice.reducer>[1];
const after = (state: BenchState, ...list: Action[]): BenchState => list.reduce(benchSlice.reducer, state);
const framing = after(
  benchSlice.getInitialState(),
  actions.projectOpened(projectOf({ source: { ...projectOf().source, ...photo } })),
  actions.jobChosen({ job: 'frame', photo }),
);
const draftOf = (state: BenchState) => state.project!.draft;
const own = (state: BenchState) => draftOf(state).change as { kind: string; rimPx: number; frame: { rect: Rect } };
const framed = (rect: Rect) =>
  actions.changeSet({ change: { frame: { turn: 0, pitch: 0, yaw: 0, focal: 1, rect } }, gesture: 'frame' });

test('places left out of the donors are none, everything else is; more can be left out, and undone one by one', () => {
  const once = after(framing, actions.donorsLeftOut({ photo, rects: [{ x: 0, y: 0, width: 50, height: 40 }] }));
  const twice = after(once, actions.donorsLeftOut({ photo, rects: [{ x: 200, y: 100, width: 40, height: 60 }] }));
  const donorAt = (state: BenchState, x: number, y: number): number =>
    maskUnder(renderMark(draftOf(state).donors!, photo), wholeOf(photo)).data[y * photo.width + x]!;
  expect([donorAt(twice, 20, 20), donorAt(twice, 220, 130), donorAt(twice, 120, 80)]).toEqual([0, 0, 255]);
  const back = after(twice, actions.undone());
  expect([donorAt(back, 20, 20), donorAt(back, 220, 130)]).toEqual([0, 255]);
  expect(draftOf(after(back, actions.undone())).donors).toBeUndefined();
});

test('another way of the Frame job begins afresh; undo brings the former one back with what was set', () => {
  const rect = { x: -60, y: 0, width: 300, height: 160 };
  const wider = after(framing, framed(rect));
  const stretching = after(wider, actions.wayChosen({ type: 'stretch', photo }));
  expect(own(stretching)).toMatchObject({ kind: 'stretch', ...photo });
  expect(own(after(stretching, actions.undone())).frame.rect).toEqual(rect);
  expect(after(wider, actions.wayChosen({ type: 'reframe', photo }))).toEqual(wider);
});

test('dragging the frame is one undo, setting its margins another; both make takes of before invalid', () => {
  const TAKE = { strategy: 'large pieces', seed: 1 };
  const wide = { x: -60, y: 0, width: 300, height: 160 };
  const made = after(
    framing,
    framed({ x: -20, y: 0, width: 260, height: 160 }),
    framed(wide),
    actions.gestureEnded(),
    actions.roundStarted('quay'),
    actions.takesChanged({ takes: [{ spec: TAKE, rank: 1, round: 0, setAside: false }], chosen: TAKE }),
  );
  const softer = after(made, actions.changeSet({ change: { rimPx: 20 }, gesture: 'margins' }));
  expect(draftOf(softer).chosen).toBeUndefined();
  const once = after(softer, actions.undone());
  expect(own(once)).toMatchObject({ rimPx: own(made).rimPx, frame: { rect: wide } });
  expect(own(after(once, actions.undone())).frame.rect).toEqual(wholeOf(photo));
});

test('enlarging is a step of its own; what was under way in the other job is dropped, since its px are other ones', () => {
  const larger = after(framing, actions.stepAdded({ type: 'enlarge', params: { width: 480, height: 320 } }));
  expect(larger.project!.steps).toMatchObject([
    { type: 'enlarge', enabled: true, params: { width: 480, height: 320 } },
  ]);
  expect(larger.project!.asideDraft).toBeUndefined();
  expect(draftOf(larger).change).toBeUndefined();
  expect(after(larger, actions.undone()).project!.steps).toEqual([]);
});
