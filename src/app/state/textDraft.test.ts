import { text } from '../../operations/kinds/text/index.ts';
import { projectOf } from '../../../tests/support/project.ts';
import { benchActions as actions, benchSlice } from './benchSlice.ts';
import type { BenchState } from './benchState.ts';
import { draftOfStep, jobOf, ownOf, paramsOf } from '../../operations/draft.ts';

const photo = { width: 2400, height: 1600 };
const TAKE = { strategy: 'as it is', seed: 1 };
const WORDS = {
  text: 'Kiln open',
  outline: 'M0 0L500 0L500 700Z',
  block: { width: 500, height: 1200 },
  x: 300,
  y: 200,
};

type Action = Parameters<typeof benchSlice.reducer>[1];
const typed = (change: object) => actions.changeSet({ change, gesture: 'text' });
const textOf = (state: BenchState) => ownOf(state.project!.draft, text)!;
const after = (state: BenchState, ...list: Action[]): BenchState => list.reduce(benchSlice.reducer, state);
const writing = after(
  benchSlice.getInitialState(),
  actions.projectOpened(projectOf()),
  actions.jobChosen({ job: 'frame', photo }),
  actions.wayChosen({ type: 'text', photo }),
);
const used = after(
  writing,
  typed(WORDS),
  actions.roundStarted('quay'),
  actions.takesChanged({ takes: [{ spec: TAKE, rank: 0, round: 0, setAside: false }], chosen: TAKE }),
  actions.takeUsed(undefined),
);

test('text begins near the top left corner, at a size that suits the picture', () => {
  const { x, sizePx } = textOf(writing);
  expect(jobOf(writing.project!.draft)).toBe('frame');
  expect(x).toBeGreaterThan(0);
  expect(sizePx).toBeGreaterThan(1600 / 30);
  expect(sizePx).toBeLessThan(1600 / 5);
});

test('a text becomes a step, and is opened again as it was', () => {
  const [step] = used.project!.steps;
  expect(step).toMatchObject({ type: 'text', params: WORDS });
  const again = draftOfStep(step!);
  expect(again.change).toMatchObject(WORDS);
  expect(paramsOf(again)).toEqual(step!.params);
});

test('typing is one undo; a place given by a press is another', () => {
  const words = after(writing, typed({ text: 'K' }), typed({ text: 'Ki' }));
  expect(textOf(after(words, actions.undone())).text).toBe('');
  const put = after(words, actions.gestureEnded(), typed({ x: 900 }));
  expect(textOf(after(put, actions.undone()))).toMatchObject({
    text: 'Ki',
    x: textOf(writing).x,
  });
});

test('text stays where it is in the picture when an earlier frame moves', () => {
  const take = { strategy: 'large pieces', seed: 1 };
  const rect = { x: -100, y: -40, width: 2500, height: 1640 };
  const [written] = used.project!.steps;
  const framed = after(
    benchSlice.getInitialState(),
    actions.projectOpened(projectOf()),
    actions.jobChosen({ job: 'frame', photo }),
    actions.changeSet({ change: { frame: { turn: 0, pitch: 0, yaw: 0, focal: 1, rect } }, gesture: 'frame' }),
    actions.roundStarted('quay'),
    actions.takesChanged({ takes: [{ spec: take, rank: 0, round: 0, setAside: false }], chosen: take }),
    actions.takeUsed(undefined),
  );
  const both = { ...framed, project: { ...framed.project!, steps: [...framed.project!.steps, written!] } };
  const off = after(both, actions.stepSwitched({ id: both.project.steps[0]!.id }));
  expect(off.project!.steps[1]!.params).toMatchObject({ x: 200, y: 160 });
});
