import { projectOf } from '../../../tests/support/project.ts';
import type { MarkShape } from '../../operations/marks/markSchema.ts';
import { benchActions as actions, benchSlice } from './benchSlice.ts';
import type { BenchState } from './benchState.ts';
import { EMPTY_DRAFT, fingerprint, paramsOf, whatIsMissing as missingOn, type Draft } from '../../operations/draft.ts';

const PROJECT = projectOf();
const lasso = (combine: MarkShape['combine'], at = 0): MarkShape => ({
  kind: 'lasso',
  combine,
  points: [at, 0, at + 50, 0, at, 50],
});
const TAKE = { strategy: 'even', seed: 1 };
const SIZE = { width: PROJECT.source.width, height: PROJECT.source.height };
const choose = (type: string) => actions.kindChosen({ type, photo: SIZE });
const set = (change: object) => actions.changeSet({ change, gesture: 'place' });
const place = (dxPx: number) => set({ placement: { dxPx, dyPx: 0, scale: 1, turn: 0, mirror: 'none' } });
const whatIsMissing = (draft: Draft) => missingOn(draft, SIZE);

type Action = Parameters<typeof benchSlice.reducer>[1];
const after = (state: BenchState, ...list: Action[]): BenchState => list.reduce(benchSlice.reducer, state);
const opened = after(benchSlice.getInitialState(), actions.projectOpened(PROJECT));
const draftOf = (state: BenchState) => state.project!.draft;
const withTake = (...list: Action[]): BenchState =>
  after(
    opened,
    actions.shapeDrawn(lasso('also')),
    choose('move'),
    place(90),
    ...list,
    actions.roundStarted('quay'),
    actions.takesChanged({ takes: [{ spec: TAKE, rank: 1, round: 0, setAside: false }], chosen: TAKE }),
  );

test('the first shape begins a mark, further ones are added or taken away as asked', () => {
  const state = after(opened, actions.shapeDrawn(lasso('also')), actions.shapeDrawn(lasso('without', 10)));
  expect(draftOf(state).mark.shapes.map((shape) => shape.combine)).toEqual(['startOver', 'without']);
  expect(draftOf(after(state, actions.shapeDrawn(lasso('startOver')))).mark.shapes).toHaveLength(1);
  expect(draftOf(after(opened, actions.shapeDrawn(lasso('without')))).mark.shapes).toHaveLength(0);
});

test('one gesture is one undo, however many changes it makes; the next gesture is another', () => {
  const state = after(
    opened,
    actions.shapeDrawn(lasso('also')),
    actions.markAdjusted({ growPx: 1 }),
    actions.markAdjusted({ growPx: 2 }),
    actions.markAdjusted({ growPx: 3 }),
    actions.gestureEnded(),
    actions.markAdjusted({ growPx: 9 }),
  );
  const back = after(state, actions.undone());
  expect(draftOf(back).mark.growPx).toBe(3);
  expect(draftOf(after(back, actions.undone())).mark.growPx).toBe(0);
  expect(draftOf(after(back, actions.undone(), actions.redone())).mark.growPx).toBe(3);
});

test('undo and redo at their ends change nothing', () => {
  expect(after(opened, actions.undone(), actions.redone()).project).toEqual(PROJECT);
});

test('what is still missing is told in the order of the work', () => {
  expect(whatIsMissing(EMPTY_DRAFT)).toMatch(/Mark something/);
  const marked = after(opened, actions.shapeDrawn(lasso('also')));
  expect(whatIsMissing(draftOf(marked))).toMatch(/Choose what happens/);
  expect(whatIsMissing(draftOf(after(marked, choose('clear'))))).toBeUndefined();
  const moving = after(marked, choose('move'));
  expect(whatIsMissing(draftOf(moving))).toMatch(/Drag the marked subject/);
  expect(whatIsMissing(draftOf(after(moving, place(9))))).toBeUndefined();
});

test('what happens can be chosen before marking, and changed with mark and place kept', () => {
  const first = after(opened, choose('move'), actions.shapeDrawn(lasso('also')), place(90));
  const changed = draftOf(after(first, choose('duplicate')));
  expect(changed.mark).toEqual(draftOf(first).mark);
  expect(changed.change).toMatchObject({ kind: 'duplicate', placement: { dxPx: 90 } });
});

test('takes of another mark or another thing happening are dropped; a setting makes them out of date only', () => {
  const state = withTake();
  expect(draftOf(after(state, actions.shapeDrawn(lasso('also', 5)))).takes).toEqual([]);
  expect(draftOf(after(state, choose('duplicate'))).takes).toEqual([]);
  const looser = draftOf(after(state, actions.rebuildSet({ closeness: 0 })));
  expect(looser.takes).toHaveLength(1);
  expect(looser.takesFor).not.toBe(fingerprint(looser));
});

test('a used take becomes a step; the next place starts with the same settings and the last mark at hand', () => {
  const used = after(withTake(actions.rebuildSet({ closeness: 75 })), actions.takeUsed(undefined));
  const { steps, draft, lastMark } = used.project!;
  expect(steps).toHaveLength(1);
  expect(steps[0]).toMatchObject({ type: 'move', enabled: true, params: { closeness: 75, take: TAKE } });
  expect(draft).toMatchObject({ change: { kind: 'move' }, closeness: 75, mark: { shapes: [] }, takes: [] });
  expect(lastMark!.shapes).toHaveLength(1);
  expect(draftOf(after(used, actions.lastMarkBroughtBack())).mark).toEqual(lastMark);
  expect(after(used, actions.undone()).project!.steps).toEqual([]);
});

test('a step opened and used again is changed in place; left, it stays as it was', () => {
  const used = after(withTake(), actions.takeUsed(undefined));
  const id = used.project!.steps[0]!.id;
  const open = after(used, actions.stepOpened(id));
  expect(draftOf(open)).toMatchObject({ editing: id, change: { kind: 'move', placement: { dxPx: 90 } }, chosen: TAKE });
  expect(draftOf(open).takesFor).toBe(fingerprint(draftOf(open)));
  const changed = after(open, place(30), actions.takeUsed(undefined));
  expect(changed.project!.steps).toHaveLength(1);
  expect(changed.project!.steps[0]).toMatchObject({ id, params: { placement: { dxPx: 30 } } });
  expect(after(open, place(30), actions.draftLeft()).project!.steps).toEqual(used.project!.steps);
});

test('a step can be switched off and on, and removed with undo', () => {
  const used = after(withTake(), actions.takeUsed(undefined));
  const id = used.project!.steps[0]!.id;
  const off = after(used, actions.stepSwitched({ id }));
  expect(off.project!.steps[0]!.enabled).toBe(false);
  expect(after(off, actions.stepSwitched({ id })).project!.steps[0]!.enabled).toBe(true);
  const removed = after(used, actions.stepRemoved({ id }));
  expect(removed.project!.steps).toEqual([]);
  expect(after(removed, actions.undone()).project!.steps).toEqual(used.project!.steps);
});

test('a take set aside makes room for the next and can be taken back in', () => {
  const second = { strategy: 'large pieces', seed: 1 };
  const two = after(
    withTake(),
    actions.takesChanged({
      takes: [TAKE, second].map((spec) => ({ spec, rank: 1, round: 0, setAside: false })),
      chosen: TAKE,
    }),
  );
  const aside = after(two, actions.takeSetAside(TAKE));
  expect(draftOf(aside).chosen).toEqual(second);
  expect(draftOf(aside).takes[0]!.setAside).toBe(true);
  expect(draftOf(after(aside, actions.takeSetAside(TAKE))).takes[0]!.setAside).toBe(false);
});

test('Clear and Move each have their own default light', () => {
  const marked = after(opened, actions.shapeDrawn(lasso('also')));
  expect(paramsOf(draftOf(after(marked, choose('clear'))))).toMatchObject({ light: 100 });
  expect(paramsOf(draftOf(after(marked, choose('move'))))).toMatchObject({ light: 0 });
});

test('an empty name is not taken', () => {
  expect(after(opened, actions.projectRenamed('  ')).project!.name).toBe('quay');
  expect(after(opened, actions.projectRenamed(' Fair ')).project!.name).toBe('Fair');
});

test('drawing goes to the donors while they are meant, and leaves the mark as it is', () => {
  const state = after(
    opened,
    actions.shapeDrawn(lasso('also')),
    choose('clear'),
    actions.paintTargetChosen('donors'),
    actions.shapeDrawn(lasso('also', 200)),
    actions.shapeDrawn(lasso('without', 220)),
  );
  expect(draftOf(state).mark.shapes).toHaveLength(1);
  expect(draftOf(state).donors!.shapes.map((shape) => shape.combine)).toEqual(['startOver', 'without']);
  expect(paramsOf(draftOf(state))).toMatchObject({ donors: { shapes: [{}, {}] } });
  const dropped = after(state, actions.paintingDropped('donors'));
  expect(draftOf(dropped).donors).toBeUndefined();
  expect(dropped.paintTarget).toBe('mark');
  expect(draftOf(after(dropped, actions.undone())).donors!.shapes).toHaveLength(2);
});

test('planes set by hand make other takes; without them those found count again', () => {
  const marked = after(opened, actions.shapeDrawn(lasso('also')), choose('clear'));
  const plane = { corners: [0, 1, 2, 3].map((k) => ({ x: k * 10, y: k })) as never, on: true };
  const set = after(marked, actions.planesSet([plane]));
  expect(fingerprint(draftOf(set))).not.toBe(fingerprint(draftOf(marked)));
  const off = after(set, actions.planesSet([{ ...plane, on: false }]));
  expect(fingerprint(draftOf(off))).not.toBe(fingerprint(draftOf(set)));
  expect(fingerprint(draftOf(after(off, actions.planesSet(undefined))))).toBe(fingerprint(draftOf(marked)));
});

test('lines set by hand make other takes; without them those found count again, and none is in hand', () => {
  const marked = after(opened, actions.shapeDrawn(lasso('also')), choose('clear'));
  const line = { points: [0, 1].map((k) => ({ x: k * 40, y: 20 })), widthsPx: [3, 3] as [number, number], on: true };
  const set = after(marked, actions.runOnSet([line, line]), actions.runOnTaken(1));
  expect(paramsOf(draftOf(set))).toMatchObject({ runOn: [line, line] });
  expect(fingerprint(draftOf(set))).not.toBe(fingerprint(draftOf(marked)));
  expect(after(set, actions.runOnSet([line])).runOnInHand).toBeUndefined();
  const found = after(set, actions.gestureEnded(), actions.runOnSet(undefined));
  expect(fingerprint(draftOf(found))).toBe(fingerprint(draftOf(marked)));
  expect(draftOf(after(found, actions.undone())).runOn).toHaveLength(2);
  expect(draftOf(after(set, actions.markDropped())).runOn).toBeUndefined();
});

test('drawing a line brings lines into sight; another tool ends it', () => {
  const drawing = after(opened, actions.runOnAsked(true));
  expect(drawing).toMatchObject({ runOnWanted: true, runOnShown: true, paintTarget: 'mark' });
  expect(after(drawing, actions.toolChosen('box')).runOnWanted).toBe(false);
  expect(after(drawing, actions.runOnShownToggled())).toMatchObject({ runOnWanted: false, runOnShown: false });
});

test('areas wait for their turn: using a take brings the next, joining brings all back', () => {
  const areas = [0, 100, 200].map((at) => ({ ...EMPTY_DRAFT.mark, shapes: [lasso('startOver', at)] }));
  const parted = after(opened, actions.shapeDrawn(lasso('also')), choose('clear'), actions.areasParted(areas));
  expect(draftOf(parted).mark).toEqual(areas[0]);
  expect(draftOf(parted).waiting).toHaveLength(2);
  const used = after(
    parted,
    actions.roundStarted('quay'),
    actions.takesChanged({ takes: [{ spec: TAKE, rank: 1, round: 0, setAside: false }], chosen: TAKE }),
    actions.takeUsed(undefined),
  );
  expect(used.project!.steps).toHaveLength(1);
  expect(draftOf(used)).toMatchObject({ change: { kind: 'clear' }, mark: areas[1], waiting: [areas[2]] });
  const joined = after(parted, actions.areasJoined());
  expect(draftOf(joined).mark.shapes.map((shape) => shape.combine)).toEqual(['startOver', 'also', 'also']);
  expect(draftOf(joined).waiting).toEqual([]);
});

test('a single area is not parted', () => {
  const marked = after(opened, actions.shapeDrawn(lasso('also')));
  expect(after(marked, actions.areasParted([draftOf(marked).mark]))).toBe(marked);
});

const markOf = (...shapes: MarkShape[]) => ({ ...EMPTY_DRAFT.mark, shapes });

test('what is painted beside the mark goes where it belongs, and protection stays for the next change', () => {
  const state = after(
    opened,
    actions.shapeDrawn(lasso('also')),
    choose('move'),
    actions.paintTargetChosen('protect'),
    actions.shapeDrawn(lasso('also', 200)),
    actions.paintTargetChosen('belongs'),
    actions.shapeDrawn(lasso('also', 10)),
  );
  expect(draftOf(state).mark.shapes).toHaveLength(1);
  expect(paramsOf(draftOf(state))).toMatchObject({
    protect: { shapes: [lasso('startOver', 200)] },
    belongs: { shapes: [lasso('startOver', 10)] },
  });
  // Strokes on the subject mean nothing where none is placed: the hand draws the mark again.
  expect(after(state, choose('clear')).paintTarget).toBe('mark');
  const next = draftOf(after(state, actions.draftLeft()));
  expect(next.protect).toBeDefined();
  expect(next.belongs).toBeUndefined();
});

test('a shadow joins the mark without becoming part of the subject', () => {
  const state = after(opened, actions.shapeDrawn(lasso('also')), actions.shadowAdded(markOf(lasso('startOver', 60))));
  const draft = draftOf(state);
  expect(draft.mark.shapes.map(({ combine }) => combine)).toEqual(['startOver', 'also']);
  expect(draft.belongsNot!.shapes).toEqual([lasso('also', 60)]);
  expect(draftOf(after(state, actions.undone())).belongsNot).toBeUndefined();
});

test('marks are kept by name; the same name replaces, a forgotten one is gone', () => {
  const kept = after(
    opened,
    actions.shapeDrawn(lasso('also')),
    actions.markKept(' jars '),
    actions.shapeDrawn(lasso('also', 90)),
    actions.markKept('jars'),
    actions.markDropped(),
  );
  expect(kept.project!.keptMarks.map(({ name }) => name)).toEqual(['jars']);
  expect(draftOf(after(kept, actions.keptMarkBroughtBack('jars'))).mark.shapes).toHaveLength(2);
  expect(after(kept, actions.keptMarkForgotten('jars')).project!.keptMarks).toEqual([]);
  expect(after(opened, actions.markKept('nothing marked')).project!.keptMarks).toEqual([]);
});

test('a stroke becomes a step at once, which undo takes back', () => {
  const take = { strategy: 'fine pieces', seed: 1 };
  const state = after(
    opened,
    actions.stepAdded({
      type: 'strokeClear',
      params: { mark: markOf(lasso('startOver')) },
      take,
      leavesDraft: true,
    }),
  );
  expect(state.project!.steps).toMatchObject([{ type: 'strokeClear', enabled: true, params: { take } }]);
  expect(after(state, actions.undone()).project!.steps).toEqual([]);
});

test('a dragged distance means a place, a length or a source, and does not pass from one to the other', () => {
  const moved = withTake();
  const borrowing = after(moved, choose('borrow'));
  expect(draftOf(borrowing).change).toEqual({ kind: 'borrow', from: { dxPx: 0, dyPx: 0 } });
  const borrowed = after(borrowing, set({ from: { dxPx: 40, dyPx: 0 } }));
  expect(paramsOf(draftOf(borrowed))).toMatchObject({ from: { dxPx: 40, dyPx: 0 } });
});

test('settings of a kind come back when it is chosen again, its place does not', () => {
  const dark = after(withTake(), set({ shadowStrength: 140, withShadow: true, light: 25 }));
  const again = after(dark, choose('clear'), choose('move'));
  expect(draftOf(again).change).toMatchObject({ shadowStrength: 140, light: 25, placement: { dxPx: 0 } });
  // So they do for the next place, under another kind of the same sort.
  expect(draftOf(after(again, choose('duplicate'))).change).toMatchObject({ kind: 'duplicate', shadowStrength: 140 });
});

test('refining begins with an empty mark; areas that wait go on waiting', () => {
  const areas = [1, 2].map((at) => markOf(lasso('startOver', at * 100)));
  const state = after(
    opened,
    actions.shapeDrawn(lasso('also')),
    choose('clear'),
    actions.areasParted(areas),
    actions.roundStarted('quay'),
    actions.takesChanged({ takes: [{ spec: TAKE, rank: 1, round: 0, setAside: false }], chosen: TAKE }),
    actions.takeUsed(undefined),
    actions.partAsked({ type: 'refine', photo: SIZE }),
  );
  expect(draftOf(state)).toMatchObject({ change: { kind: 'refine' }, mark: { shapes: [] }, waiting: [areas[1]] });
  expect(state.tool).toBe('brush');
});

const toFrame = actions.jobChosen({ job: 'frame', photo: SIZE });
const toSubjects = actions.jobChosen({ job: 'subjects', photo: SIZE });
const framed = (rect: object, turn = 0) => set({ frame: { turn, pitch: 0, yaw: 0, focal: 1, rect } });
const frameOf = (state: BenchState) =>
  (draftOf(state).change as { frame?: { turn: number; rect: { x: number } } })?.frame;
const frameUsed = (state: BenchState): BenchState =>
  after(
    state,
    actions.roundStarted('quay'),
    actions.takesChanged({ takes: [{ spec: TAKE, rank: 0, round: 0, setAside: false }], chosen: TAKE }),
    actions.takeUsed(undefined),
  );

test('each job has a draft of its own that waits while the other is done', () => {
  const marked = after(opened, actions.shapeDrawn(lasso('also')), toFrame);
  expect(draftOf(marked).mark.shapes).toHaveLength(0);
  const widened = after(marked, framed({ x: -40, y: 0, width: 90, height: 80 }), toSubjects);
  expect(draftOf(widened).mark.shapes).toHaveLength(1);
  expect(frameOf(after(widened, toFrame))?.rect.x).toBe(-40);
});

test('after a new frame, the mark that waited and the steps that follow stay where they are in the picture', () => {
  const rect = { x: -40, y: 10, width: 900, height: 700 };
  const used = frameUsed(after(opened, actions.shapeDrawn(lasso('also', 30)), toFrame, framed(rect)));
  expect(draftOf(used).change).toBeUndefined();
  expect(draftOf(used).mark.shapes[0]).toMatchObject({ points: [70, -10, 120, -10, 70, 40] });
  const cleared = frameUsed(after(used, choose('clear')));
  const [frame, clear] = cleared.project!.steps;
  const moved = frameUsed(after(cleared, actions.stepOpened(frame!.id), framed({ ...rect, x: -100 })));
  expect(moved.project!.steps.map(({ type }) => type)).toEqual(['reframe', 'clear']);
  expect(moved.project!.steps[1]!.params.mark!.shapes[0]).toMatchObject({ points: [130, -10, 180, -10, 130, 40] });
  const off = after(cleared, actions.stepSwitched({ id: frame!.id }));
  expect(off.project!.steps[1]!.params.mark!.shapes[0]).toMatchObject({ points: [30, 0, 80, 0, 30, 50] });
  expect(after(off, actions.stepSwitched({ id: frame!.id })).project!.steps[1]!.params).toEqual(clear!.params);
  expect(after(cleared, actions.stepRemoved({ id: frame!.id })).project!.steps[0]!.params).toEqual(
    off.project!.steps[1]!.params,
  );
});

test('a later step that can’t follow keeps what it had, and the user is told which', () => {
  const rect = { x: 0, y: 0, width: 700, height: 500 };
  const first = frameUsed(after(opened, toFrame, framed(rect)));
  const both = frameUsed(after(first, toFrame, framed({ ...rect, width: 600 })));
  const [frame, second] = both.project!.steps;
  const turned = after(both, actions.stepOpened(frame!.id), framed(rect, 0.2));
  const used = frameUsed(turned);
  expect(used.project!.steps[1]!.params).toEqual(second!.params);
  expect(used.notice).toMatch(/^Step 2 stays as before: .* can’t follow the new frame/);
  expect(after(used, actions.noticeRead()).notice).toBe('');
});

test('what is left out of the donors leaves the rest of the photo, or of what was painted', () => {
  const rects = [{ x: 10, y: 20, width: 30, height: 40 }];
  const state = after(opened, toFrame, actions.donorsLeftOut({ photo: SIZE, rects }));
  const shapes = draftOf(state).donors!.shapes;
  expect(shapes.map(({ combine }) => combine)).toEqual(['startOver', 'without']);
  expect(shapes[1]).toMatchObject({ points: [10, 20, 40, 20, 40, 60, 10, 60] });
  const again = after(state, actions.donorsLeftOut({ photo: SIZE, rects }));
  expect(draftOf(again).donors!.shapes).toHaveLength(3);
});

test('the brush stays at least 2 px wide, and at most a quarter of the picture’s longer side', () => {
  const { width, height } = PROJECT.source;
  expect(after(opened, actions.brushResized(0.2)).brushRadiusPx).toBe(1);
  expect(after(opened, actions.brushResized(1e6)).brushRadiusPx).toBe(Math.ceil(Math.max(width, height) / 8));
});
