import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { SnackbarProvider } from 'notistack';
import { lazy, Suspense, useMemo, type ReactNode } from 'react';
import { Provider } from 'react-redux';
import { createBrowserRouter } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import type { FingoDatabase } from '../storage/database.ts';
import { ProjectsPage } from './features/projects/ProjectsPage.tsx';
import { DatabaseContext } from './store/databaseContext.ts';
import { useAppSelector, type AppStore } from './store/store.ts';
import { makeTheme } from './theme/theme.ts';
import { Waiting } from './Waiting.tsx';

/** The pages. All but the first are fetched when they are gone to, with the state that they need. */
function makeRouter(store: AppStore) {
  const loadBench = async () => {
    const bench = await import('./features/bench/entry.ts');
    store.bringIn(bench.benchSlice);
    return bench;
  };
  const ProjectGate = lazy(async () => ({ default: (await loadBench()).ProjectGate }));
  const BenchPage = lazy(async () => ({ default: (await loadBench()).BenchPage }));
  const DeliverPage = lazy(async () => ({
    default: (await import('./features/deliver/DeliverPage.tsx')).DeliverPage,
  }));
  const StitchPage = lazy(async () => {
    const stitch = await import('./features/stitch/entry.ts');
    store.bringIn(stitch.stitchSlice);
    return { default: stitch.StitchPage };
  });
  return createBrowserRouter([
    { path: '/', element: <ProjectsPage /> },
    { path: '/stitch', element: later(<StitchPage />) },
    {
      path: '/p/:id',
      element: later(<ProjectGate />),
      children: [
        { index: true, element: <BenchPage /> },
        { path: 'around', element: <BenchPage around /> },
        { path: 'deliver', element: later(<DeliverPage />) },
      ],
    },
    { path: '*', element: <ProjectsPage /> },
  ]);
}

const later = (page: ReactNode): ReactNode => <Suspense fallback={<Waiting />}>{page}</Suspense>;

export function App({ store, db }: { store: AppStore; db: FingoDatabase }) {
  return (
    <Provider store={store}>
      <DatabaseContext value={db}>
        <Themed store={store} />
      </DatabaseContext>
    </Provider>
  );
}

function Themed({ store }: { store: AppStore }) {
  const router = useMemo(() => makeRouter(store), [store]);
  const name = useAppSelector((state) => state.viewSettings.theme);
  const theme = useMemo(() => makeTheme(name), [name]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <SnackbarProvider maxSnack={3} autoHideDuration={8000}>
        <RouterProvider router={router} />
      </SnackbarProvider>
    </ThemeProvider>
  );
}
