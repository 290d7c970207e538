import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { Link, Outlet, useOutletContext, useParams } from 'react-router';
import { FingoError, serialiseError } from '../../core/errors.ts';
import { withNote } from '../../storage/journal.ts';
import { loadProject, loadSource } from '../../storage/projects.ts';
import { startAutosave } from '../store/autosave.ts';
import { savesSettled } from '../store/savesSettled.ts';
import { useAppSelector, useAppStore } from '../store/store.ts';
import { benchActions } from '../state/benchSlice.ts';
import { Waiting } from '../Waiting.tsx';
import { useDatabase } from '../store/databaseContext.ts';
import { openDesk, type Desk } from './desk.ts';

/** Opens the project of the address with its pixels for the views below it, keeps it saved, closes it when left. */
export function ProjectGate() {
  const { id = '' } = useParams();
  const db = useDatabase();
  const store = useAppStore();
  const [desk, setDesk] = useState<Desk>();
  const [trouble, setTrouble] = useState('');
  const isOpen = useAppSelector((state) => state.bench.project?.id === id);

  useEffect(() => {
    let left = false;
    let close = (): void => undefined;
    const open = async (): Promise<void> => {
      await savesSettled();
      const project = await loadProject(db, id);
      const blob = project && (await loadSource(db, project.source.key));
      if (!project || !blob || project.deletedAt) {
        throw new FingoError('not-found', 'This project is not in this browser any more; go back to Projects.');
      }
      if (left) return;
      store.dispatch(benchActions.projectOpened(withNote(localStorage, project)));
      const stopSaving = startAutosave(store, db, localStorage);
      close = () => void stopSaving();
      const opened = await openDesk(store, db, project, blob);
      close = () => {
        opened.close();
        void stopSaving();
      };
      if (left) close();
      else setDesk(opened);
    };
    open().catch((error: unknown) => setTrouble(serialiseError(error).message));
    return () => {
      left = true;
      setDesk(undefined);
      close();
    };
  }, [db, store, id]);

  if (trouble) {
    return (
      <Box component="main" sx={{ p: 4, maxWidth: 560 }}>
        <Typography component="h1" variant="h1" sx={{ mb: 2 }}>
          This project can’t be opened
        </Typography>
        <Typography sx={{ mb: 2 }}>{trouble}</Typography>
        <Button component={Link} to="/">
          Projects
        </Button>
      </Box>
    );
  }
  if (!desk || !isOpen) {
    return <Waiting>Opening the photo</Waiting>;
  }
  return <Outlet context={desk} />;
}

/** The desk of the open project, for the views below the gate. */
export const useDesk = (): Desk => useOutletContext<Desk>();
