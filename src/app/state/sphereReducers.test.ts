import { projectOf } from '../../../tests/support/project.ts';
import type { Step } from '../../operations/recipe.ts';
import { benchActions as actions, benchSlice } from './benchSlice.ts';
import type { BenchState } from './benchState.ts';
import { draftOfStep, paramsOf } from '../../operations/draft.ts';

const VIEW = { yaw: 30, pitch: -90, roll: 0, fov: 100, width: 400, height: 300 };
const source = { ...projectOf().source, width: 4096, height: 2048 };
const lasso = { kind: 'lasso' as const, combine: 'also' as const, points: [10, 10, 60, 10, 10, 60] };
const TAKE = { strategy: 'even', seed: 1 };

type Action = Parameters<typeof benchSlice.reducer>[1];
const after = (state: BenchState, ...list: Action[]): BenchState => list.reduce(benchSlice.reducer, state);
const opened = after(
  benchSlice.getInitialState(),
  actions.projectOpened(projectOf({ source })),
  actions.sphereAnswered(true),
);
const worked = after(
  opened,
  actions.viewEntered({ view: VIEW }),
  actions.shapeDrawn(lasso),
  actions.kindChosen({ type: 'clear', photo: VIEW }),
  actions.roundStarted('quay'),
  actions.takesChanged({ takes: [{ spec: TAKE, rank: 1, round: 0, setAside: false }], chosen: TAKE }),
  actions.takeUsed(undefined),
);
const stepsOf = (state: BenchState): Step[] => state.project!.steps;
const draftOf = (state: BenchState) => state.project!.draft;
const turn = (own: object) => actions.setAtOnce({ type: 'turnSphere', own });

test('an answer makes the photo a sphere, or lets it be', () => {
  const asked = after(
    benchSlice.getInitialState(),
    actions.projectOpened(projectOf({ source: { ...source, asksSphere: true } })),
  );
  expect(after(asked, actions.sphereAnswered(true)).project!.source).toMatchObject({
    sphere: { full: { width: 4096, height: 2048 } },
  });
  const flat = after(asked, actions.sphereAnswered(false)).project!.source;
  expect([flat.sphere, flat.asksSphere]).toEqual([undefined, undefined]);
});

test('a step remembers its view, and the next draft goes on in it', () => {
  expect(stepsOf(worked)[0]!.params.view).toEqual(VIEW);
  expect(draftOf(worked).view).toEqual(VIEW);
  expect(paramsOf(draftOfStep(stepsOf(worked)[0]!)).view).toEqual(VIEW);
});

test('leaving a view keeps its mark one key away, and undo goes back into it', () => {
  const marked = after(opened, actions.viewEntered({ view: VIEW }), actions.shapeDrawn(lasso));
  const left = after(marked, actions.viewLeft());
  expect(draftOf(left)).toMatchObject({ mark: { shapes: [] } });
  expect(draftOf(left).view).toBeUndefined();
  expect(draftOf(after(left, actions.lastMarkBroughtBack()))).toMatchObject({
    view: VIEW,
    mark: { shapes: [{ kind: 'lasso' }] },
  });
  expect(draftOf(after(left, actions.undone())).view).toEqual(VIEW);
});

test('a mark kept by name comes back with its view', () => {
  const kept = after(
    opened,
    actions.viewEntered({ view: VIEW }),
    actions.shapeDrawn(lasso),
    actions.markKept('tripod'),
    actions.viewLeft(),
  );
  expect(draftOf(after(kept, actions.keptMarkBroughtBack('tripod'))).view).toEqual(VIEW);
});

test('levelling is one step, however often it is changed, and one undo for a gesture', () => {
  const state = after(worked, turn({ yaw: 0, pitch: 0, roll: 1 }), turn({ yaw: 0, pitch: 0, roll: 2 }));
  expect(stepsOf(state).map(({ type }) => type)).toEqual(['clear', 'turnSphere']);
  expect(stepsOf(state)[1]!.params).toMatchObject({ roll: 2 });
  expect(stepsOf(after(state, actions.undone()))).toHaveLength(1);
});

test('what follows a turned sphere goes on showing the same place, also when the turn is taken back', () => {
  const level = after(opened, turn({ yaw: 40, pitch: 0, roll: 0 }));
  const inView = after(level, actions.viewEntered({ view: { ...VIEW, pitch: 0 } }));
  const turned = after(inView, actions.gestureEnded(), turn({ yaw: 50, pitch: 0, roll: 0 }));
  expect(draftOf(turned).view!.yaw).toBeCloseTo(40, 6);
  const off = after(turned, actions.stepSwitched({ id: stepsOf(turned)[0]!.id }));
  expect(draftOf(off).view!.yaw).toBeCloseTo(-10, 6);
  const gone = after(turned, actions.stepRemoved({ id: stepsOf(turned)[0]!.id }));
  expect(draftOf(gone).view!.yaw).toBeCloseTo(-10, 6);
  // Steps before it look at the sphere as it was.
  const earlier = after(worked, turn({ yaw: 50, pitch: 0, roll: 0 }));
  expect(stepsOf(earlier)[0]!.params.view).toEqual(VIEW);
});

test('a step that is seen as it is set is opened by saying which one is meant, not by taking it out of sight', () => {
  const twice = after(
    opened,
    turn({ yaw: 40, pitch: 0, roll: 0 }),
    actions.stepAdded({ type: 'turnSphere', params: { yaw: 5, pitch: 0, roll: 0 } }),
  );
  const [first, second] = stepsOf(twice);
  const meant = after(twice, actions.stepOpened(first!.id));
  expect([meant.adjusted, draftOf(meant).editing]).toEqual([first!.id, undefined]);
  const changed = after(meant, turn({ yaw: 10, pitch: 0, roll: 0 }));
  expect(stepsOf(changed).map(({ params }) => params)).toMatchObject([{ yaw: 10 }, second!.params]);
  expect(after(changed, actions.stepRemoved({ id: first!.id })).adjusted).toBeUndefined();
});
