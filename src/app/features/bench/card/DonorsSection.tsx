import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../../../state/benchSlice.ts';

/** Where new pixels may come from, and where they did. */
export function DonorsSection() {
  const dispatch = useAppDispatch();
  const paintTarget = useAppSelector((state) => state.bench.paintTarget);
  const donorsShown = useAppSelector((state) => state.bench.donorsShown);
  const donors = useAppSelector((state) => state.bench.project!.draft.donors);
  return (
    <Box role="group" aria-label="Donors">
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Typography variant="body2">Donors</Typography>
        <Typography variant="caption">{donors ? 'Only from what is painted' : 'All around the mark'}</Typography>
      </Box>
      <Typography variant="caption" color="text.secondary" component="p">
        Where new pixels may come from
      </Typography>
      <Button
        size="small"
        sx={{ mt: 0.5 }}
        onClick={() => dispatch(benchActions.paintTargetChosen(paintTarget === 'donors' ? 'mark' : 'donors'))}
      >
        {paintTarget === 'donors' ? 'Draw the mark again' : 'Draw donors'}
      </Button>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <FormControlLabel
          control={
            <Switch size="small" checked={donorsShown} onChange={() => dispatch(benchActions.donorsShownToggled())} />
          }
          label="Show what was used"
          slotProps={{ typography: { variant: 'body2' } }}
        />
        {donors && (
          <Button size="small" onClick={() => dispatch(benchActions.paintingDropped('donors'))}>
            From all around
          </Button>
        )}
      </Box>
    </Box>
  );
}
