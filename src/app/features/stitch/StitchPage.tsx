import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { useDropzone } from 'react-dropzone';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useNavigate } from 'react-router';
import { serialiseError } from '../../../core/errors.ts';
import { EMPTY_MARK } from '../../../operations/marks/markSchema.ts';
import type { Project } from '../../../storage/projectSchema.ts';
import type { Finished } from '../../../workers/stitch.worker.ts';
import { useDatabase } from '../../store/databaseContext.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../../store/store.ts';
import { ViewMenu } from '../../theme/ViewMenu.tsx';
import { draftOf, EMPTY_DRAFT, offeredIn } from '../../../operations/draft.ts';
import { createProject } from '../projects/createProject.ts';
import { projectAddress } from '../projects/projectActions.ts';
import { FramesTray } from './FramesTray.tsx';
import { JoinCard } from './JoinCard.tsx';
import { PanoramaView } from './PanoramaView.tsx';
import { StitchCard } from './StitchCard.tsx';
import { openStitchDesk, type StitchDesk } from './stitchDesk.ts';
import { stitchActions } from './stitchSlice.ts';

type KeptMarks = Project['keptMarks'];

/** A pinned place is marked for the Bench by a disc of so much of the panorama's longer side. */
const GHOST_SHARE = 0.012;

const DEMO_FRAMES = [1, 2, 3, 4, 5].map((k) => `lagoon-sweep_${k}.jpg`);

/** Frames in, a straight panorama out; it goes on to the Bench with its gaps marked. */
export function StitchPage() {
  const store = useAppStore();
  const db = useDatabase();
  const [desk, setDesk] = useState<StitchDesk>();
  useEffect(() => {
    const opening = openStitchDesk(store, db);
    void opening.then(setDesk);
    return () => void opening.then((opened) => opened.close());
  }, [store, db]);
  return desk ? <Stitching desk={desk} /> : null;
}

function Stitching({ desk }: { desk: StitchDesk }) {
  const dispatch = useAppDispatch();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const db = useDatabase();
  const navigate = useNavigate();
  const shown = useSyncExternalStore(desk.subscribe, desk.shown);
  const { frames, report, work, trouble, past, future, crop } = useAppSelector((state) => state.stitch);
  const isBusy = work.stage !== '';
  const dropzone = useDropzone({
    onDrop: (files) => files.length > 0 && desk.add(files.map(named)),
    noClick: true,
    noKeyboard: true,
  });
  useHotkeys('mod+z', () => void dispatch(stitchActions.undone()), { preventDefault: true });
  useHotkeys('mod+shift+z', () => void dispatch(stitchActions.redone()), { preventDefault: true });
  useHotkeys('escape', () => void dispatch(stitchActions.handChosen('crop')));

  const openDemo = async (): Promise<void> => {
    try {
      const files = DEMO_FRAMES.map(async (name) => {
        const answer = await fetch(`/demo/${name}`);
        if (!answer.ok) throw new Error(name);
        return { name, blob: await answer.blob() };
      });
      desk.add(await Promise.all(files));
    } catch {
      dispatch(
        stitchActions.troubleTold(
          'The demo frames could not be loaded; check that Fingo’s server is still running, then try again.',
        ),
      );
    }
  };
  /** What is pinned on the seams, as marks that are kept for the Bench. */
  const ghostMarks = (): KeptMarks => {
    const { ghosts, layout } = shown!;
    const { x, y } = crop ?? layout.bounds;
    const radiusPx = GHOST_SHARE * Math.max(layout.bounds.width, layout.bounds.height);
    return ghosts.map((ghost, k) => {
      const points = [ghost.x - x, ghost.y - y];
      const stroke = {
        kind: 'stroke' as const,
        combine: 'startOver' as const,
        points,
        radiusPx,
        hardness: 1,
        intensity: 1,
      };
      return { name: `Ghost ${k + 1}`, mark: { ...EMPTY_MARK, shapes: [stroke] } };
    });
  };
  const toBench = async (finished: Finished | undefined, name: string, keptMarks: KeptMarks = []): Promise<void> => {
    if (!finished) return;
    try {
      const file = new File([finished.picture], `${name}.png`, { type: 'image/png' });
      const [closing] = offeredIn('subjects');
      const draft = finished.gaps
        ? { ...draftOf(closing!.type, { width: 0, height: 0 }), mark: finished.gaps }
        : EMPTY_DRAFT;
      const project = await createProject(db, file, { draft, keptMarks });
      await navigate(projectAddress(project.id, project.source.sphere !== undefined));
    } catch (error) {
      dispatch(stitchActions.troubleTold(serialiseError(error).message));
    }
  };
  /** Takes frames out, with a way back. */
  const keepOnly = (ids: readonly string[]): void => {
    const bringBack = desk.keepOnly(ids);
    const gone = frames.filter(({ id }) => !ids.includes(id));
    enqueueSnackbar(`${gone.length === 1 ? gone[0]!.name : `${gone.length} frames`} taken out.`, {
      action: (key) => (
        <Button
          variant="text"
          onClick={() => {
            closeSnackbar(key);
            bringBack();
          }}
        >
          Undo
        </Button>
      ),
    });
  };
  const stem = (frames[0]?.name ?? 'panorama').replace(/\.[^.]+$/, '');
  const canJoin = frames.length === 2 && !isBusy && !report;

  return (
    <Box {...dropzone.getRootProps()} sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <input {...dropzone.getInputProps()} accept="image/*" aria-label="Add frames" />
      <Box
        component="header"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 1.5,
          px: 2,
          minHeight: 56,
          bgcolor: 'background.paper',
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Button component={Link} to="/">
          Projects
        </Button>
        <Typography component="h1" variant="h1">
          Stitch
        </Typography>
        <Box sx={{ flex: 1 }} />
        {frames.length > 0 && <Button onClick={() => keepOnly([])}>Start over</Button>}
        <Button disabled={past.length === 0} onClick={() => dispatch(stitchActions.undone())}>
          Undo
        </Button>
        <Button disabled={future.length === 0} onClick={() => dispatch(stitchActions.redone())}>
          Redo
        </Button>
        <ViewMenu />
        <Button
          variant="contained"
          color="primary"
          disabled={!shown || isBusy}
          onClick={() => void desk.finish().then((finished) => toBench(finished, `${stem} panorama`, ghostMarks()))}
        >
          Open on the Bench
        </Button>
      </Box>
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        {frames.length > 0 && <FramesTray desk={desk} onAdd={dropzone.open} onKeepOnly={keepOnly} />}
        <Box sx={{ flex: 1, minWidth: 0, position: 'relative', bgcolor: 'background.default' }}>
          {shown && <PanoramaView shown={shown} />}
          {frames.length === 0 && <Empty onAdd={dropzone.open} onDemo={() => void openDemo()} trouble={trouble} />}
          {frames.length === 1 && (
            <Middle>
              <Typography>One frame makes no panorama. Add at least one more that overlaps it by a third.</Typography>
            </Middle>
          )}
          {isBusy && !shown && (
            <Middle>
              <Work onCancel={desk.cancel} />
            </Middle>
          )}
        </Box>
        {frames.length > 1 && (
          <Box
            component="aside"
            aria-label="Panorama"
            sx={{
              width: 320,
              flexShrink: 0,
              overflowY: 'auto',
              bgcolor: 'background.paper',
              borderLeft: 1,
              borderColor: 'divider',
            }}
          >
            {isBusy && shown && (
              <Box sx={{ p: 2, borderBottom: 1, borderColor: 'divider' }}>
                <Work onCancel={desk.cancel} />
              </Box>
            )}
            {trouble && (
              <Alert severity="error" variant="outlined" sx={{ m: 2, color: 'text.primary' }}>
                {trouble}
              </Alert>
            )}
            {!isBusy && !shown && (
              <Box sx={{ p: 2 }}>
                <Button fullWidth onClick={desk.again}>
                  Look at the frames again
                </Button>
              </Box>
            )}
            {report && shown && <StitchCard report={report} shown={shown} onKeepOnly={keepOnly} />}
            {canJoin && (
              <JoinCard
                onJoin={(options) => void desk.join(options).then((finished) => toBench(finished, `${stem} joined`))}
              />
            )}
          </Box>
        )}
      </Box>
    </Box>
  );
}

const named = (file: File) => ({ name: file.name, blob: file });

function Work({ onCancel }: { onCancel: () => void }) {
  const { stage, share } = useAppSelector((state) => state.stitch.work);
  return (
    <Box sx={{ width: 260, maxWidth: '100%', display: 'flex', flexDirection: 'column', gap: 1 }}>
      <Typography variant="body2" role="status">
        {stage}, {Math.round(100 * share)} %
      </Typography>
      <LinearProgress variant="determinate" value={100 * share} aria-label={stage} />
      <Button onClick={onCancel}>Cancel</Button>
    </Box>
  );
}

function Middle({ children }: { children: React.ReactNode }) {
  return <Box sx={{ position: 'absolute', inset: 0, display: 'grid', placeContent: 'center', p: 4 }}>{children}</Box>;
}

function Empty({ onAdd, onDemo, trouble }: { onAdd: () => void; onDemo: () => void; trouble: string }) {
  return (
    <Middle>
      <Box sx={{ maxWidth: 460, textAlign: 'center', display: 'flex', flexDirection: 'column', gap: 1.5 }}>
        <Typography component="h2" variant="h2">
          Drop frames here, in any order
        </Typography>
        <Typography color="text.secondary">
          Four to twelve photos taken from one place, each overlapping the next by about a third: in a row, a column or
          a grid. Two photos that have nothing in common can be joined side by side.
        </Typography>
        <Box sx={{ display: 'flex', gap: 1, justifyContent: 'center' }}>
          <Button variant="contained" color="primary" onClick={onAdd}>
            Choose frames
          </Button>
          <Button onClick={onDemo}>Try the lagoon frames</Button>
        </Box>
        {trouble && (
          <Alert severity="error" variant="outlined" sx={{ color: 'text.primary' }}>
            {trouble}
          </Alert>
        )}
      </Box>
    </Middle>
  );
}
