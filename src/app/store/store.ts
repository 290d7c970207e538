import { combineSlices, configureStore, type Reducer } from '@reduxjs/toolkit';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { projectsSlice } from '../features/projects/projectsSlice.ts';
import type { StitchState } from '../features/stitch/stitchSlice.ts';
import type { BenchState } from '../state/benchState.ts';
import { keepViewSettings, viewSettingsSlice } from '../theme/viewSettings.ts';

/** Parts of the state that come with the page that needs them, and are there for all that is loaded with it. */
interface LaterState {
  bench: BenchState;
  stitch: StitchState;
}

interface LaterPart {
  reducerPath: string;
  reducer: Reducer;
}

/** The application's state: plain data only (thumbnails are blobs), never pixels. */
export function createAppStore() {
  const reducer = combineSlices(projectsSlice, viewSettingsSlice);
  const store = configureStore({
    reducer,
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
  });
  let settings = store.getState().viewSettings;
  store.subscribe(() => {
    if (store.getState().viewSettings === settings) return;
    settings = store.getState().viewSettings;
    keepViewSettings(settings);
  });
  type State = ReturnType<typeof store.getState> & LaterState;
  type Whole = Omit<typeof store, 'getState'> & { getState(): State; bringIn(part: LaterPart): void };
  return Object.assign(store, {
    /** Adds a part of the state, if it is not there yet. */
    bringIn({ reducerPath, reducer: added }: LaterPart): void {
      reducer.inject({ reducerPath, reducer: added } as never);
      store.dispatch({ type: 'store/partBroughtIn' });
    },
  }) as unknown as Whole;
}

export type AppStore = ReturnType<typeof createAppStore>;
export type AppState = ReturnType<AppStore['getState']>;

export const useAppDispatch = useDispatch.withTypes<AppStore['dispatch']>();
export const useAppSelector = useSelector.withTypes<AppState>();
export const useAppStore = useStore as unknown as () => AppStore;
