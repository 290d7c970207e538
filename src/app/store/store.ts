import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { benchSlice } from '../state/benchSlice.ts';
import { projectsSlice } from '../features/projects/projectsSlice.ts';
import { stitchSlice } from '../features/stitch/stitchSlice.ts';
import { keepViewSettings, viewSettingsSlice } from '../theme/viewSettings.ts';

/** The application's state: plain data only (thumbnails are blobs), never pixels. */
export function createAppStore() {
  const store = configureStore({
    reducer: {
      bench: benchSlice.reducer,
      projects: projectsSlice.reducer,
      stitch: stitchSlice.reducer,
      viewSettings: viewSettingsSlice.reducer,
    },
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
  });
  let settings = store.getState().viewSettings;
  store.subscribe(() => {
    if (store.getState().viewSettings === settings) return;
    settings = store.getState().viewSettings;
    keepViewSettings(settings);
  });
  return store;
}

export type AppStore = ReturnType<typeof createAppStore>;
export type AppState = ReturnType<AppStore['getState']>;

export const useAppDispatch = useDispatch.withTypes<AppStore['dispatch']>();
export const useAppSelector = useSelector.withTypes<AppState>();
export const useAppStore = useStore.withTypes<AppStore>();
