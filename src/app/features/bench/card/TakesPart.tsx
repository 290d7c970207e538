import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { takeId } from '../../../desk/deskView.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts, useDeskView, useKindView } from '../benchContext.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { failedBefore } from '../../../state/benchState.ts';
import { jobOf, kindOfDraft, whatIsMissing } from '../../../../operations/draft.ts';
import { EdgeNote } from '../around/EdgeNote.tsx';
import { Advice } from './Advice.tsx';
import { TakeList } from './TakeList.tsx';

/** Takes: asked for, waited for, looked at, used. */
export function TakesPart() {
  const { desk } = useBenchParts();
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const { stage, share } = useAppSelector((state) => state.bench.work);
  const { kinds } = useBenchParts();
  const { photo } = useDeskView().source;
  const kind = kindOfDraft(draft);
  const { useLabel = 'Use it' } = useKindView() ?? {};
  const failed = useAppSelector(({ bench }) => failedBefore(bench));
  const missing = failed
    ? `Step ${failed.index + 1} can’t be made: open it, switch it off or remove it first.`
    : whatIsMissing(draft, photo);
  const isPlain = kind?.draft.isPlain?.(draft.change!, photo) ?? false;
  const working = stage !== '';
  const shown = draft.takes.filter((take) => !take.setAside);
  const aside = draft.takes.filter((take) => take.setAside);
  const chosen = draft.chosen && takeId(draft.chosen);
  // While earlier steps are computed again, or once they have changed, takes are of another picture.
  useAppSelector((state) => state.bench.recomputing);
  const canUse = desk.canTakeOver();
  return (
    <Box component="section" aria-label="Takes" sx={{ p: 2, display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <EdgeNote />
      {draft.takes.length === 0 && !working && (
        <>
          <Button
            variant="contained"
            color="primary"
            disabled={missing !== undefined}
            onClick={() => void (isPlain ? desk.useAsItIs() : desk.makeTakes())}
            title={isPlain ? undefined : 'Key T'}
          >
            {isPlain ? useLabel : 'Make takes'}
          </Button>
          <Typography variant="body2" color="text.secondary">
            {missing ??
              (isPlain ? 'Nothing is rebuilt for it.' : 'Several proposals are made, the first one in a few seconds.')}
          </Typography>
        </>
      )}
      {working && (
        <Box>
          <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', mb: 0.5 }}>
            <Typography variant="body2" role="status">
              {share > 0 ? `${stage}, ${Math.round(share * 100)} %` : stage}
            </Typography>
            <Button size="small" onClick={() => desk.cancel()} title="Key Escape">
              Cancel
            </Button>
          </Box>
          <LinearProgress
            variant={share > 0 ? 'determinate' : 'indeterminate'}
            value={share * 100}
            aria-label="Share done"
          />
        </Box>
      )}
      {!working && <Advice />}
      {shown.length > 0 && (
        <>
          <Typography component="h2" variant="h2">
            {shown.length === 1 ? '1 take' : `${shown.length} takes, best first`}
          </Typography>
          <TakeList takes={shown} chosen={chosen} firstNumber={1} label="Takes" />
        </>
      )}
      {aside.length > 0 && (
        <>
          <Typography component="h3" variant="caption" color="text.secondary">
            Set aside
          </Typography>
          <TakeList takes={aside} chosen={chosen} firstNumber={shown.length + 1} label="Takes set aside" />
        </>
      )}
      {draft.takes.length > 0 && (
        <>
          <Button variant="contained" color="primary" disabled={!canUse} onClick={() => desk.takeOver()} title="Key U">
            {draft.editing ? 'Use this take in its step' : 'Use this take'}
          </Button>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
            <Button
              disabled={chosen === undefined}
              onClick={() => draft.chosen && dispatch(benchActions.takeSetAside(draft.chosen))}
            >
              {aside.some((take) => takeId(take.spec) === chosen) ? 'Take it back in' : 'Set aside'}
            </Button>
            <Button disabled={working || failed !== undefined} onClick={() => void desk.makeTakes()} title="Key T">
              Another round
            </Button>
          </Box>
          {jobOf(draft) === 'subjects' &&
            kinds.map(({ type, AfterTakes }) => AfterTakes && <AfterTakes key={type} canUse={canUse && !working} />)}
        </>
      )}
      {draft.editing && <Button onClick={() => dispatch(benchActions.draftLeft())}>Leave the step as it is</Button>}
    </Box>
  );
}
