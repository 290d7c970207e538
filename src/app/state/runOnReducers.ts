import type { PayloadAction } from '@reduxjs/toolkit';
import type { RunOnParams } from '../../operations/rebuild/rebuildSchema.ts';
import { changeDraft, type BenchState } from './benchState.ts';

/** Work on the lines that run on through what is rebuilt. */
export const runOnReducers = {
  /** The lines set by hand; without any, those that are found. */
  runOnSet(state: BenchState, { payload }: PayloadAction<RunOnParams[] | undefined>) {
    changeDraft(
      state,
      (draft) => {
        if (payload) draft.runOn = payload;
        else delete draft.runOn;
      },
      'runOn',
    );
    if (!payload || (state.runOnInHand ?? 0) >= payload.length) state.runOnInHand = undefined;
  },
  runOnShownToggled(state: BenchState) {
    state.runOnShown = !state.runOnShown;
    state.runOnWanted = false;
  },
  runOnAsked(state: BenchState, { payload }: PayloadAction<boolean>) {
    state.runOnWanted = payload;
    if (payload) Object.assign(state, { runOnShown: true, paintTarget: 'mark' });
  },
  runOnTaken: (state: BenchState, { payload }: PayloadAction<number | undefined>) => void (state.runOnInHand = payload),
};
