import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { takeId } from '../../../desk/deskView.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';
import { benchActions } from '../../../state/benchSlice.ts';

/** What the chosen take's making showed to be in the way, each with what to do about it. */
export function Advice() {
  const dispatch = useAppDispatch();
  const { reports } = useDeskView();
  const { chosen, mark, donors } = useAppSelector((state) => state.bench.project!.draft);
  const report = chosen && reports.get(takeId(chosen));
  if (!report) return null;
  const growPx = report.growthAdvisedPx;
  return (
    <>
      {growPx > 0 && (
        <Alert
          severity="warning"
          variant="outlined"
          sx={{ color: 'text.primary' }}
          action={
            <Button
              size="small"
              onClick={() => {
                dispatch(benchActions.gestureEnded());
                dispatch(benchActions.markAdjusted({ growPx: mark.growPx + growPx }));
              }}
            >
              Grow by {growPx} px
            </Button>
          }
        >
          The mark runs close along what it takes out; some of it may stay at the rim.
        </Alert>
      )}
      {report.poorSurroundings && (
        <Alert severity="warning" variant="outlined" sx={{ color: 'text.primary' }}>
          {donors
            ? 'What is painted as donors is little to rebuild it from. Paint more, or clear it in smaller pieces.'
            : 'There is little around the mark to rebuild it from. Clear it in smaller pieces, or draw donors farther away.'}
        </Alert>
      )}
    </>
  );
}
