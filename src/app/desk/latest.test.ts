import { pending, settle } from '../../../tests/support/desk.ts';
import type { DeskView } from './deskView.ts';
import { createLatest } from './latest.ts';

/** Follows words; each search ends when it is told to. */
function following(isSame?: (a: string, b: string) => boolean) {
  const searches: { wanted: string; signal: AbortSignal; end(): void; fail(error: Error): void }[] = [];
  const shown: unknown[] = [];
  const told: unknown[] = [];
  const latest = createLatest<string>(
    { show: (change) => shown.push(change), tell: (error) => told.push(error) },
    {
      async find(wanted, show, signal) {
        const { promise, resolve, reject } = pending<undefined>();
        searches.push({ wanted, signal, end: () => resolve(undefined), fail: reject });
        await promise;
        show({ isTurning: wanted === 'turning' } satisfies Partial<DeskView>);
      },
      none: () => shown.push('none'),
      ...(isSame && { isSame }),
    },
  );
  return { latest, searches, shown, told };
}

test('only what was asked for last is shown, in whatever order answers come', async () => {
  const { latest, searches, shown } = following();
  latest.follow('still');
  latest.follow('turning');
  expect(searches.map(({ signal }) => signal.aborted)).toEqual([true, false]);
  searches[1]!.end();
  searches[0]!.end();
  await settle();
  expect(shown).toEqual([{ isTurning: true }]);
});

test('the same is not looked for twice, until what was found is forgotten', () => {
  const { latest, searches } = following((a, b) => a.toLowerCase() === b.toLowerCase());
  latest.follow('still');
  latest.follow('Still');
  expect(searches).toHaveLength(1);
  latest.forget();
  latest.follow('still');
  expect(searches).toHaveLength(2);
});

test('when nothing is wanted any more that is said once, and what was under way is let go', async () => {
  const { latest, searches, shown } = following();
  latest.follow('still');
  latest.follow(undefined);
  latest.follow(undefined);
  searches[0]!.end();
  await settle();
  expect(shown).toEqual(['none']);
});

test('a failure is told, but not of what was overtaken or closed', async () => {
  const { latest, searches, told } = following();
  latest.follow('a');
  latest.follow('b');
  searches[0]!.fail(new Error('old'));
  searches[1]!.fail(new Error('new'));
  latest.follow('c');
  latest.close();
  searches[2]!.fail(new Error('closed'));
  await settle();
  expect(told).toEqual([]);
  latest.follow('d');
  searches[3]!.fail(new Error('new'));
  await settle();
  expect(told).toEqual([new Error('new')]);
});
