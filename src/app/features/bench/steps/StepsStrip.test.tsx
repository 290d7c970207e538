/** @jest-environment ./tests/support/pageEnvironment.mjs */
import { jest } from '@jest/globals';
import { act, render, screen, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { projectOf } from '../../../../../tests/support/project.ts';
import { stepOf } from '../../../../operations/recipe.ts';
import type { Desk } from '../../../desk/desk.ts';
import { benchActions, benchSlice } from '../../../state/benchSlice.ts';
import { createAppStore } from '../../../store/store.ts';
import { BenchContext, type BenchParts } from '../benchContext.ts';
import { StepsStrip } from './StepsStrip.tsx';

const triangle = {
  shapes: [{ kind: 'lasso', combine: 'startOver', points: [100, 100, 300, 100, 300, 300] }],
};
const STEPS = [
  stepOf('a', 'clear', { mark: triangle }),
  stepOf('b', 'enlarge', { width: 3000, height: 2000 }),
  stepOf('c', 'clear', { mark: triangle }),
];

/** The strip beside a desk that notes what is asked of it. */
function strip(steps = STEPS) {
  const store = createAppStore();
  store.bringIn(benchSlice);
  store.dispatch(benchActions.projectOpened(projectOf({ steps })));
  const view = { source: { photo: { width: 2400, height: 1600 } }, base: [] };
  const asked = { switchStep: jest.fn(), removeStep: jest.fn(), replayAgain: jest.fn() };
  const desk = {
    ...asked,
    subscribe: () => () => undefined,
    view: () => view,
    stepHalves: () => Promise.resolve(undefined),
    picture: { outline: () => Promise.resolve({ areaPx: 38_400 }) },
  } as unknown as Desk;
  render(
    <Provider store={store}>
      <MemoryRouter>
        <BenchContext value={{ desk } as BenchParts}>
          <StepsStrip />
        </BenchContext>
      </MemoryRouter>
    </Provider>,
  );
  return { store, asked, user: userEvent.setup(), items: () => screen.getAllByRole('listitem') };
}

test('without steps the strip says what will be there', () => {
  strip([]);
  expect(screen.getByText(/Each change that you use is kept here/)).toBeTruthy();
});

test('each step tells in words what it did, can be opened, switched off and removed', async () => {
  const { store, asked, user, items } = strip();
  expect(items()).toHaveLength(3);
  await screen.findAllByText('1 Cleared, 1.0 % of the picture');
  const enlarged = within(items()[1]!);
  await user.click(enlarged.getByRole('button', { name: /^Step 2: Enlarged to 3000 x 2000 px/ }));
  expect(store.getState().bench.project!.draft.editing).toBe('b');
  expect(enlarged.getByRole('button', { name: /^Step 2/ }).getAttribute('aria-current')).toBe('step');
  await user.click(enlarged.getByRole('switch', { name: 'Step 2, Enlarge, is on' }));
  await user.click(enlarged.getByRole('button', { name: 'Remove step 2' }));
  expect([asked.switchStep.mock.calls, asked.removeStep.mock.calls]).toEqual([[['b']], [['b']]]);
});

test('a step that can’t be made says why and can be tried again; those after it wait', async () => {
  const { store, asked, user, items } = strip();
  act(
    () => void store.dispatch(benchActions.stepFailed({ id: 'b', index: 1, message: 'There is too little memory.' })),
  );
  const [before, failing, after] = items().map((item) => within(item));
  expect(failing!.getByRole('alert').textContent).toContain('Can’t be made: There is too little memory.');
  expect(before!.queryByRole('alert')).toBeNull();
  expect(after!.getByText('Waits for the step that can’t be made.')).toBeTruthy();
  await user.click(failing!.getByRole('button', { name: 'Try step 2 again' }));
  expect(asked.replayAgain).toHaveBeenCalledTimes(1);
});
