import { deskContext, greyPatch, ORIGIN, pending, settle, SOURCE } from '../../../tests/support/desk.ts';
import { projectOf } from '../../../tests/support/project.ts';
import { FingoError } from '../../core/errors.ts';
import type { Replayed, Rendering, Workshop } from '../../engine/workshop.ts';
import type { Step } from '../../operations/recipe.ts';
import { benchActions as actions } from '../state/benchSlice.ts';
import { createRenderingDesk } from './renderingDesk.ts';

const step = (id: string): Step => ({
  id,
  type: 'clear',
  version: 1,
  enabled: true,
  params: { mark: { shapes: [], inverted: false, growPx: 0 } as never, take: { strategy: 'even', seed: 1 } },
});
const renderingOf = (grey: number): Rendering => ({ ...ORIGIN, key: `rendering ${grey}`, patches: [greyPatch(grey)] });
const VIEW = { yaw: 10, pitch: 0, roll: 0, fov: 60, width: 800, height: 600 };

function desk(workshop: Partial<Workshop>, steps: Step[] = []) {
  const context = deskContext({ workshop }, projectOf({ steps }));
  let shownTimes = 0;
  const renderings = createRenderingDesk(context, () => shownTimes++);
  return { ...context, renderings, follow: () => renderings.follow(context.project()), shownTimes: () => shownTimes };
}

test('the picture after the last step is shown; with a step open, the one before it', async () => {
  const all = [ORIGIN, renderingOf(50), renderingOf(120)];
  const { renderings, follow, view, store, draft } = desk({ replay: () => Promise.resolve({ renderings: all }) }, [
    step('a'),
    step('b'),
  ]);
  expect(follow()).toBe(true);
  await renderings.settled();
  expect(view().base).toBe(all[2]!.patches);
  expect(follow()).toBe(false);
  store.dispatch(actions.stepOpened('b'));
  expect(draft().editing).toBe('b');
  expect(follow()).toBe(true);
  expect(view().base).toBe(all[1]!.patches);
  expect(renderings.of(draft())).toBe(all[1]);
});

test('a replay that was overtaken changes nothing, even where it ends last', async () => {
  const [slow, quick] = [pending<Replayed>(), pending<Replayed>()];
  const asked: AbortSignal[] = [];
  const replay: Workshop['replay'] = (steps, { signal }) => {
    asked.push(signal);
    return steps.length === 1 ? slow.promise : quick.promise;
  };
  const { renderings, follow, view, store } = desk({ replay }, [step('a')]);
  follow();
  store.dispatch(actions.projectOpened(projectOf({ steps: [step('a'), step('b')] })));
  follow();
  expect(asked.map(({ aborted }) => aborted)).toEqual([true, false]);
  quick.resolve({ renderings: [ORIGIN, renderingOf(50), renderingOf(200)] });
  await renderings.settled();
  slow.resolve({ renderings: [ORIGIN, renderingOf(50)] });
  await settle();
  expect(view().base[0]!.image.data[0]).toBe(200);
  expect(renderings.all()).toHaveLength(3);
});

test('a step that fails keeps the picture before it, is named, and can be tried again', async () => {
  const message = 'Nothing is marked inside the picture.';
  const answers: Replayed[] = [
    { renderings: [ORIGIN, renderingOf(50)], failed: { id: 'b', index: 1, message } },
    { renderings: [ORIGIN, renderingOf(50), renderingOf(90)] },
  ];
  const { renderings, follow, view, bench, draft } = desk({ replay: () => Promise.resolve(answers.shift()!) }, [
    step('a'),
    step('b'),
  ]);
  follow();
  await renderings.settled();
  expect(bench().failed).toEqual({ id: 'b', index: 1, message });
  expect(view().base[0]!.image.data[0]).toBe(50);
  expect(renderings.of({ ...draft(), editing: 'b' }).key).toBe('rendering 50');
  renderings.again();
  expect(renderings.isReplaying()).toBe(true);
  await renderings.settled();
  expect([bench().failed, renderings.isReplaying()]).toEqual([undefined, false]);
  expect(view().base[0]!.image.data[0]).toBe(90);
});

test('who waits for a replay that is overtaken waits for the one that overtook it', async () => {
  const [first, second] = [pending<Replayed>(), pending<Replayed>()];
  const replay: Workshop['replay'] = (steps) => (steps.length === 1 ? first.promise : second.promise);
  const { renderings, follow, store } = desk({ replay }, [step('a')]);
  follow();
  let isSettled = false;
  const waiting = renderings.settled().then(() => (isSettled = true));
  store.dispatch(actions.projectOpened(projectOf({ steps: [step('a'), step('b')] })));
  follow();
  first.resolve({ renderings: [ORIGIN, renderingOf(50)] });
  await settle();
  expect(isSettled).toBe(false);
  second.resolve({ renderings: [ORIGIN, renderingOf(50), renderingOf(200)] });
  await waiting;
  expect(renderings.all()).toHaveLength(3);
});

test('which step is computed again is told, and that it is over', async () => {
  const { promise, resolve } = pending<Replayed>();
  const replay: Workshop['replay'] = (_steps, { onStep }) => {
    onStep?.(1, 0.5);
    return promise;
  };
  const { renderings, follow, bench } = desk({ replay }, [step('a'), step('b')]);
  follow();
  expect(bench().recomputing).toBe(1);
  resolve({ renderings: [ORIGIN, renderingOf(1), renderingOf(2)] });
  await renderings.settled();
  expect(bench().recomputing).toBe(-1);
});

test('a direct view that cannot be made is told, and the flat sphere is shown again', async () => {
  const sphere = { initial: { yaw: 0, pitch: 0, roll: 0, fov: 75 } };
  const project = projectOf({ source: { ...projectOf().source, sphere } as never });
  const seen: Workshop['seen'] = () =>
    Promise.reject(new FingoError('internal', 'This view is too large; look closer.'));
  const context = deskContext({ workshop: { replay: () => Promise.resolve({ renderings: [ORIGIN] }), seen } }, project);
  const renderings = createRenderingDesk(context, () => undefined);
  renderings.follow(context.project());
  await renderings.settled();
  context.store.dispatch(actions.viewEntered({ view: VIEW, mark: context.draft().mark }));
  renderings.follow(context.project());
  expect(context.view().isTurning).toBe(true);
  await settle();
  expect(context.bench().trouble).toBe('This view is too large; look closer.');
  expect(context.draft().view).toBeUndefined();
});

test('of views asked for one after the other only the last is shown, whichever is there first', async () => {
  const ways = new Map<number, ReturnType<typeof pending<Rendering>>>();
  const seen: Workshop['seen'] = (_rendering, { yaw }) => {
    const way = pending<Rendering>();
    ways.set(yaw, way);
    return way.promise;
  };
  const { renderings, follow, store, view, draft } = desk({
    replay: () => Promise.resolve({ renderings: [ORIGIN] }),
    seen,
  });
  follow();
  await renderings.settled();
  for (const yaw of [20, 40]) {
    store.dispatch(actions.viewEntered({ view: { ...VIEW, yaw }, mark: draft().mark }));
    follow();
  }
  const lookedAt = (grey: number): Rendering => {
    const source = { ...SOURCE, key: `view ${grey}`, crop: () => Promise.resolve(greyPatch(grey).image) };
    return { ...renderingOf(grey), source: source as never };
  };
  ways.get(40)!.resolve(lookedAt(40));
  await settle();
  ways.get(20)!.resolve(lookedAt(20));
  await settle();
  expect(view().source.key).toBe('view 40');
  expect(renderings.shown().key).toBe('rendering 40');
});
