import { jest } from '@jest/globals';
import { deskContext, greyPatch, lasso, ORIGIN, pending, resultOf, settle } from '../../../tests/support/desk.ts';
import { FingoError } from '../../core/errors.ts';
import type { TakeOptions, Workshop } from '../../engine/workshop.ts';
import { clearSchema } from '../../operations/rebuild/clearSchema.ts';
import { kindOf } from '../../operations/kinds.ts';
import type { RankedTake } from '../../operations/takes.ts';
import { benchActions as actions } from '../state/benchSlice.ts';
import { takeId } from './deskView.ts';
import type { RenderingDesk } from './renderingDesk.ts';
import { createTakesDesk } from './takesDesk.ts';

let isReplaying = false;
let rendering = ORIGIN;
const RENDERINGS: RenderingDesk = {
  follow: () => false,
  settled: () => Promise.resolve(),
  isReplaying: () => isReplaying,
  again: () => undefined,
  all: () => [ORIGIN],
  reshapes: () => new Map(),
  of: () => rendering,
  shown: () => ORIGIN,
  close: () => undefined,
};
const [FIRST, SECOND, THIRD] = kindOf('clear')
  .strategies.slice(0, 3)
  .map((strategy) => ({ strategy, seed: 1 })) as [RankedTake['spec'], RankedTake['spec'], RankedTake['spec']];

const choose = (type: string) => actions.kindChosen({ type, photo: ORIGIN.source.photo });
const place = (dxPx: number) =>
  actions.changeSet({ change: { placement: { dxPx, dyPx: 0, scale: 1, turn: 0, mirror: 'none' } }, gesture: 'place' });

interface Round {
  round: number;
  options: TakeOptions;
  end(): void;
  fail(error: unknown): void;
}

/** A desk with a marked draft that is to be cleared, and the rounds that were asked for. */
function desk(workshop: Partial<Workshop> = {}) {
  const rounds: Round[] = [];
  const context = deskContext({
    workshop: {
      makeTakes: (_rendering, _type, _params, round, options) => {
        const { promise, resolve, reject } = pending<RankedTake[]>();
        options.signal.addEventListener('abort', () => reject(options.signal.reason));
        rounds.push({ round, options, end: () => resolve([]), fail: reject });
        return promise;
      },
      ...workshop,
    },
  });
  const takes = createTakesDesk(context, RENDERINGS);
  context.store.subscribe(() => takes.follow(context.draft()));
  context.store.dispatch(actions.shapeDrawn(lasso(100)));
  context.store.dispatch(choose('clear'));
  return { ...context, takes, rounds };
}

const idOf = (spec: RankedTake['spec'] | undefined): string | undefined => spec && takeId(spec);

beforeEach(() => {
  jest.useFakeTimers();
  isReplaying = false;
  rendering = ORIGIN;
});
afterEach(() => jest.useRealTimers());

test('takes are put up as they come, best first; at the end the best is chosen if nobody chose', async () => {
  const { takes, rounds, draft, view } = desk();
  const made = takes.makeTakes();
  await settle();
  const [round] = rounds;
  round!.options.onTake!({ spec: FIRST, result: resultOf(10, 3) });
  expect(idOf(draft().chosen)).toBe(takeId(FIRST));
  round!.options.onTake!({ spec: SECOND, result: resultOf(90, 1) });
  expect(draft().takes.map(({ spec }) => takeId(spec))).toEqual([takeId(SECOND), takeId(FIRST)]);
  // What is looked at does not jump while more are made.
  expect(idOf(draft().chosen)).toBe(takeId(FIRST));
  round!.end();
  await made;
  expect(idOf(draft().chosen)).toBe(takeId(SECOND));
  expect(view().takes.get(takeId(SECOND))).toEqual([greyPatch(90)]);
});

test('a take that the user chose meanwhile stays chosen, whatever comes after', async () => {
  const { takes, rounds, draft, store } = desk();
  const made = takes.makeTakes();
  await settle();
  const { onTake } = rounds[0]!.options;
  onTake!({ spec: FIRST, result: resultOf(10, 3) });
  onTake!({ spec: SECOND, result: resultOf(90, 4) });
  store.dispatch(actions.takeChosen(SECOND));
  onTake!({ spec: THIRD, result: resultOf(170, 1) });
  rounds[0]!.end();
  await made;
  expect(idOf(draft().chosen)).toBe(takeId(SECOND));
});

test('another round goes on from where the last one ended and keeps its takes behind the new ones', async () => {
  const apply: Workshop['apply'] = () => Promise.resolve(resultOf(10, 3));
  const { takes, rounds, draft } = desk({ apply });
  const first = takes.makeTakes();
  await settle();
  rounds[0]!.options.onTake!({ spec: FIRST, result: resultOf(10, 3) });
  rounds[0]!.end();
  await first;
  const second = takes.makeTakes();
  await settle();
  expect(rounds.map(({ round }) => round)).toEqual([0, 1]);
  const next = { ...FIRST, seed: 2 };
  rounds[1]!.options.onTake!({ spec: next, result: resultOf(90, 9) });
  rounds[1]!.end();
  await second;
  expect(draft().takes.map(({ spec }) => takeId(spec))).toEqual([takeId(next), takeId(FIRST)]);
  expect(idOf(draft().chosen)).toBe(takeId(next));
});

test('cancelling stops what is computed, keeps the takes that are there and says nothing', async () => {
  const { takes, rounds, draft, bench } = desk();
  const made = takes.makeTakes();
  await settle();
  rounds[0]!.options.onTake!({ spec: FIRST, result: resultOf(10, 3) });
  expect(bench().work.stage).toBeTruthy();
  takes.cancel();
  await made;
  expect(rounds[0]!.options.signal.aborted).toBe(true);
  expect(draft().takes).toHaveLength(1);
  expect([bench().work.stage, bench().trouble]).toEqual(['', '']);
});

test('what goes wrong is told in a sentence, and the work is over', async () => {
  const { takes, rounds, bench } = desk();
  const made = takes.makeTakes();
  await settle();
  rounds[0]!.fail(new FingoError('no-donors', 'There is too little around the mark.'));
  await made;
  expect(bench().trouble).toBe('There is too little around the mark.');
  expect(bench().work.stage).toBe('');
});

test('a setting that changes under takes makes them anew once it rests, and only once', async () => {
  const { takes, rounds, store } = desk();
  const first = takes.makeTakes();
  await settle();
  rounds[0]!.options.onTake!({ spec: FIRST, result: resultOf(10, 3) });
  rounds[0]!.end();
  await first;
  for (const closeness of [60, 70, 80]) {
    store.dispatch(actions.rebuildSet({ closeness }));
    await jest.advanceTimersByTimeAsync(100);
  }
  expect(rounds).toHaveLength(1);
  await jest.advanceTimersByTimeAsync(1000);
  expect(rounds).toHaveLength(2);
  takes.close();
});

test('takes can be used only on the picture they were made on; on another they are made anew', async () => {
  const { takes, rounds, draft, store, project } = desk();
  const first = takes.makeTakes();
  await settle();
  rounds[0]!.options.onTake!({ spec: FIRST, result: resultOf(10, 3) });
  rounds[0]!.end();
  await first;
  expect(takes.canTakeOver()).toBe(true);
  // An earlier step is switched off: while it is computed again, and once the picture is another.
  isReplaying = true;
  expect(takes.canTakeOver()).toBe(false);
  isReplaying = false;
  rendering = { ...ORIGIN, key: 'quay without its first step' };
  takes.takeOver();
  expect(project().steps).toEqual([]);
  takes.follow(draft());
  await jest.advanceTimersByTimeAsync(1000);
  expect(rounds).toHaveLength(2);
  rounds[1]!.options.onTake!({ spec: FIRST, result: resultOf(90, 3) });
  rounds[1]!.end();
  await settle();
  takes.takeOver();
  expect(project().steps).toHaveLength(1);
  expect(store.getState().bench.trouble).toBe('');
  takes.close();
});

test('nothing is made on a picture that lacks a step, but for that step itself', async () => {
  const apply: Workshop['apply'] = () => Promise.resolve(resultOf(10, 3));
  const { takes, rounds, store, bench, project } = desk({ apply });
  store.dispatch(
    actions.stepAdded({ type: 'strokeClear', params: { mark: { shapes: [lasso(9)] } }, leavesDraft: true }),
  );
  const { id } = project().steps[0]!;
  store.dispatch(actions.stepFailed({ id, index: 0, message: 'Nothing is marked inside the picture.' }));
  await takes.makeTakes();
  expect(rounds).toHaveLength(0);
  expect(bench().trouble).toMatch(/^Step 1 \(Stroked away\) can’t be made: Nothing is marked/);
  store.dispatch(actions.stepOpened(id));
  void takes.makeTakes();
  await settle();
  expect(rounds).toHaveLength(1);
  takes.close();
});

test('another mark drops the takes and stops those that are being made for the old one', async () => {
  const { takes, rounds, draft, store, view } = desk();
  const made = takes.makeTakes();
  await settle();
  rounds[0]!.options.onTake!({ spec: FIRST, result: resultOf(10, 3) });
  store.dispatch(actions.shapeDrawn(lasso(500)));
  await made;
  expect(rounds[0]!.options.signal.aborted).toBe(true);
  expect([draft().takes.length, view().takes.size]).toEqual([0, 0]);
});

test('takes asked for while something is looked for are made once that has ended, of what was found', async () => {
  const { takes, rounds, draft, store, bench } = desk();
  const { promise, resolve } = pending<void>();
  const looking = takes.search('Looking for the shadow', async () => {
    await promise;
    store.dispatch(actions.shapeDrawn({ ...lasso(500), combine: 'also' }));
  });
  // Choosing what happens goes on beside it.
  store.dispatch(choose('duplicate'));
  store.dispatch(place(300));
  expect(bench().work.stage).toBe('Looking for the shadow');
  const made = takes.makeTakes();
  await settle();
  expect(rounds).toHaveLength(0);
  resolve();
  await looking;
  await settle();
  expect(rounds).toHaveLength(1);
  rounds[0]!.options.onTake!({ spec: FIRST, result: resultOf(10, 3) });
  rounds[0]!.end();
  await made;
  expect([draft().mark.shapes.length, draft().takes.length]).toEqual([2, 1]);
});

test('cancelling what is looked for makes no takes either', async () => {
  const { takes, rounds, bench } = desk();
  const { promise, resolve } = pending<void>();
  const looking = takes.search('Looking for the shadow', () => promise);
  const made = takes.makeTakes();
  await settle();
  takes.cancel();
  expect(bench().work.stage).toBe('');
  resolve();
  await Promise.all([looking, made]);
  expect(rounds).toHaveLength(0);
});

test('what is moved before its first take is there gets its takes where it lies now', async () => {
  const { takes, rounds, store } = desk();
  store.dispatch(choose('duplicate'));
  store.dispatch(place(300));
  void takes.makeTakes();
  await settle();
  store.dispatch(place(320));
  expect(rounds[0]!.options.signal.aborted).toBe(true);
  await jest.advanceTimersByTimeAsync(1000);
  expect(rounds).toHaveLength(2);
  takes.close();
});

test('samples of the chosen take: light first, which needs no matching, then closeness; each made once', async () => {
  const asked: string[] = [];
  const apply: Workshop['apply'] = (_rendering, _type, params) => {
    const { light, closeness } = clearSchema.parse(params);
    asked.push(`${light} ${closeness}`);
    return Promise.resolve(resultOf(asked.length, 1));
  };
  const { takes, rounds, view } = desk({ apply });
  const made = takes.makeTakes();
  await settle();
  rounds[0]!.options.onTake!({ spec: FIRST, result: resultOf(10, 3) });
  await takes.makeSamples();
  // Nothing else is done while takes are made.
  expect(asked).toEqual([]);
  rounds[0]!.end();
  await made;
  await takes.makeSamples();
  expect(asked.slice(0, 5)).toEqual(['0 50', '25 50', '50 50', '75 50', '100 50']);
  expect(asked.slice(5)).toEqual(['100 0', '100 25', '100 50', '100 75', '100 100']);
  expect(view().samples.size).toBe(10);
  await takes.makeSamples();
  expect(asked).toHaveLength(10);
});

test('takes of a step that is opened again are made anew from what they were; if that fails they are gone', async () => {
  const { promise, reject } = pending<never>();
  const { takes, draft, store, bench } = desk({ apply: () => promise });
  store.dispatch(actions.roundStarted(ORIGIN.key));
  store.dispatch(actions.takesChanged({ takes: [{ spec: FIRST, rank: 1, round: 0, setAside: false }], chosen: FIRST }));
  await settle();
  expect(bench().work.stage).toBeTruthy();
  reject(new FingoError('internal', 'The photo can no longer be read.'));
  await settle();
  expect([draft().takes, draft().chosen]).toEqual([[], undefined]);
  expect(bench().trouble).toBe('The photo can no longer be read.');
  takes.close();
});
