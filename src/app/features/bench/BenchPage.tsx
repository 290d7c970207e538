import { wholeOf } from '../../../core/image/rect.ts';
import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import type { Desk } from '../../desk/desk.ts';
import { takeId } from '../../desk/deskView.ts';
import { useDesk } from '../../desk/ProjectGate.tsx';
import { useNavigate } from 'react-router';
import { LookAround } from './around/LookAround.tsx';
import { createLookControl } from './around/lookControl.ts';
import { turned } from './around/looking.ts';
import { ViewPlace } from './around/ViewPlace.tsx';
import { BenchBar } from './BenchBar.tsx';
import { BenchContext, workCentre, type BenchParts, type Looking } from './benchContext.ts';
import { KIND_VIEWS } from '../../kinds/kindViews.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { ChangeCard } from './card/ChangeCard.tsx';
import { JobSwitch } from './JobSwitch.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { PhotoView } from './photo/PhotoView.tsx';
import { createViewControl } from './photo/viewControl.ts';
import { StepsStrip } from './steps/StepsStrip.tsx';
import { useBenchKeys } from './useBenchKeys.ts';
import { makeThumbnail } from '../projects/makeThumbnail.ts';

/** One project's work: steps on the left, the photo, the change card on the right. */
export function BenchPage({ around = false }: { around?: boolean }) {
  const desk = useDesk();
  const view = useMemo(() => createViewControl(wholeOf(desk.picture.source.photo)), [desk]);
  const [looking, setLooking] = useState<Looking>({ original: false, hoveredTake: undefined });
  const [keysShown, setKeysShown] = useState(false);
  const chosen = useAppSelector(({ bench }) => bench.project!.draft.chosen);
  const parts: BenchParts = useMemo(
    () => ({
      desk,
      view,
      looking,
      look: (change) => setLooking((now) => ({ ...now, ...change })),
      kinds: KIND_VIEWS,
      lookClosely: () => view.actualPixels(workCentre(desk, chosen && takeId(chosen))),
    }),
    [desk, view, looking, chosen],
  );
  const folded = useAppSelector((state) => state.bench.panelsFolded);
  useBenchKeys(parts, () => setKeysShown(true));
  useThumbnail(desk);
  const through = useAppSelector((state) => state.bench.project!.draft.view);
  useViewAddress(around, through !== undefined);
  const { isTurning } = useSyncExternalStore(desk.subscribe, desk.view);
  // Until a direct view is there, one still looks in its direction.
  const isLooking = around && (!through || isTurning);
  const lookControl = useMemo(createLookControl, []);
  const dispatch = useAppDispatch();
  // One goes on looking where one worked.
  useEffect(() => {
    if (through) lookControl.set(turned(through, {}));
  }, [through, lookControl]);
  const leaveView = (): void => void dispatch(benchActions.viewLeft());
  return (
    <BenchContext value={parts}>
      <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
        <BenchBar isLooking={isLooking} onShowKeys={() => setKeysShown(true)} />
        <Box
          component="main"
          sx={{
            flex: 1,
            minHeight: 0,
            display: 'flex',
            // Narrow screens: the card goes under the photo.
            '@media (max-width: 1000px)': {
              flexDirection: 'column',
              '& > .left-panel > nav + nav': { display: 'none' },
              '& > aside': { width: 'auto', maxHeight: '45%', borderLeft: 0 },
            },
          }}
        >
          {!folded && (
            <Box
              className="left-panel"
              sx={{
                display: 'flex',
                flexDirection: 'column',
                minHeight: 0,
                flexShrink: 0,
                bgcolor: 'background.paper',
                borderRight: 1,
                borderColor: 'divider',
              }}
            >
              <JobSwitch around={around} />
              {through && !isLooking && <ViewPlace view={through} onLeave={leaveView} />}
              <StepsStrip />
            </Box>
          )}
          {isLooking ? (
            <LookAround look={lookControl} isFolded={folded} />
          ) : (
            <>
              <PhotoView />
              {!folded && <ChangeCard />}
            </>
          )}
        </Box>
      </Box>
      <RecomputingNote />
      <KeysDialog open={keysShown} onClose={() => setKeysShown(false)} />
    </BenchContext>
  );
}

/** A direct view is worked in around; a step that is opened brings its own along. */
function useViewAddress(around: boolean, isInView: boolean): void {
  const navigate = useNavigate();
  const id = useAppSelector((state) => state.bench.project!.id);
  const source = useAppSelector((state) => state.bench.project!.source);
  useEffect(() => {
    if (isInView && !around) void navigate(`/p/${id}/around`);
    else if (around && !source.sphere) void navigate(`/p/${id}`, { replace: true });
  }, [around, isInView, id, source.sphere, navigate]);
}

/** Keeps the project's small picture current, some time after the steps have come to rest. */
function useThumbnail(desk: Desk): void {
  const dispatch = useAppDispatch();
  const steps = useAppSelector((state) => state.bench.project!.steps);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(() => {
      void desk
        .finished()
        .then((rendering) => makeThumbnail(desk.picture, rendering))
        .then((blob) => current && dispatch(benchActions.thumbnailMade(blob)))
        // A picture that can't be made, or whose worker is gone, keeps its old one.
        .catch(() => undefined);
    }, 1500);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [desk, steps, dispatch]);
}

function RecomputingNote() {
  const index = useAppSelector((state) => state.bench.recomputing);
  const steps = useAppSelector((state) => state.bench.project!.steps);
  if (index < 0 || !steps[index]?.enabled) return null;
  return (
    <Box
      sx={{
        position: 'fixed',
        left: 0,
        right: 0,
        bottom: 0,
        bgcolor: 'background.paper',
        borderTop: 1,
        borderColor: 'divider',
      }}
    >
      <LinearProgress aria-label="Computing steps" />
      <Typography variant="caption" sx={{ px: 2 }}>
        Computing step {index + 1} of {steps.length}
      </Typography>
    </Box>
  );
}
