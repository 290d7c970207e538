import { projectOf } from '../../../../tests/support/project.ts';
import { benchActions as actions, benchSlice } from './benchSlice.ts';
import type { BenchState } from './benchState.ts';
import { draftOfStep, jobOf, paramsOf } from './draft.ts';

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
const after = (state: BenchState, ...list: Action[]): BenchState => list.reduce(benchSlice.reducer, state);
const writing = after(
  benchSlice.getInitialState(),
  actions.projectOpened(projectOf()),
  actions.jobChosen({ job: 'frame', photo }),
  actions.frameWayChosen({ way: 'text', photo }),
);
const used = after(
  writing,
  actions.textSet(WORDS),
  actions.roundStarted('quay'),
  actions.takesChanged({ takes: [{ spec: TAKE, rank: 0, round: 0, setAside: false }], chosen: TAKE }),
  actions.takeUsed(),
);

test('text begins near the top left corner, at a size that suits the picture', () => {
  const { text } = writing.project!.draft;
  expect(jobOf(writing.project!.draft)).toBe('frame');
  expect(text!.x).toBeGreaterThan(0);
  expect(text!.sizePx).toBeGreaterThan(1600 / 30);
  expect(text!.sizePx).toBeLessThan(1600 / 5);
});

test('a text becomes a step, and is opened again as it was', () => {
  const [step] = used.project!.steps;
  expect(step).toMatchObject({ type: 'text', params: WORDS });
  const again = draftOfStep(step!);
  expect(again.text).toMatchObject(WORDS);
  expect(paramsOf(again)).toEqual(step!.params);
});

test('typing is one undo; a place given by a press is another', () => {
  const typed = after(writing, actions.textSet({ text: 'K' }), actions.textSet({ text: 'Ki' }));
  expect(after(typed, actions.undone()).project!.draft.text!.text).toBe('');
  const put = after(typed, actions.gestureEnded(), actions.textSet({ x: 900 }));
  expect(after(put, actions.undone()).project!.draft.text).toMatchObject({
    text: 'Ki',
    x: writing.project!.draft.text!.x,
  });
});

test('text stays where it is in the picture when an earlier frame moves', () => {
  const take = { strategy: 'large pieces', seed: 1 };
  const rect = { x: -100, y: -40, width: 2500, height: 1640 };
  const [text] = used.project!.steps;
  const framed = after(
    benchSlice.getInitialState(),
    actions.projectOpened(projectOf()),
    actions.jobChosen({ job: 'frame', photo }),
    actions.frameSet({ rect }),
    actions.roundStarted('quay'),
    actions.takesChanged({ takes: [{ spec: take, rank: 0, round: 0, setAside: false }], chosen: take }),
    actions.takeUsed(),
  );
  const both = { ...framed, project: { ...framed.project!, steps: [...framed.project!.steps, text!] } };
  const off = after(both, actions.stepSwitched(both.project.steps[0]!.id));
  expect(off.project!.steps[1]!.params).toMatchObject({ x: 200, y: 160 });
});
