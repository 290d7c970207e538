import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { SnackbarProvider } from 'notistack';
import { lazy, Suspense, useMemo } from 'react';
import { Provider } from 'react-redux';
import { createBrowserRouter } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import type { FingoDatabase } from '../storage/database.ts';
import { BenchPage } from './features/bench/BenchPage.tsx';
import { DeliverPage } from './features/deliver/DeliverPage.tsx';
import { ProjectsPage } from './features/projects/ProjectsPage.tsx';
import { ProjectGate } from './desk/ProjectGate.tsx';
import { DatabaseContext } from './store/databaseContext.ts';
import { useAppSelector, type AppStore } from './store/store.ts';
import { makeTheme } from './theme/theme.ts';

/** Its chart and its way through many frames are fetched when it is gone to. */
const StitchPage = lazy(async () => ({ default: (await import('./features/stitch/StitchPage.tsx')).StitchPage }));

const router = createBrowserRouter([
  { path: '/', element: <ProjectsPage /> },
  {
    path: '/stitch',
    element: (
      <Suspense>
        <StitchPage />
      </Suspense>
    ),
  },
  {
    path: '/p/:id',
    element: <ProjectGate />,
    children: [
      { index: true, element: <BenchPage /> },
      { path: 'around', element: <BenchPage around /> },
      { path: 'deliver', element: <DeliverPage /> },
    ],
  },
  { path: '*', element: <ProjectsPage /> },
]);

export function App({ store, db }: { store: AppStore; db: FingoDatabase }) {
  return (
    <Provider store={store}>
      <DatabaseContext value={db}>
        <Themed />
      </DatabaseContext>
    </Provider>
  );
}

function Themed() {
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
