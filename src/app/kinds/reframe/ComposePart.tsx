import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { benchActions } from '../../state/benchSlice.ts';
import type { Overlays } from '../../state/benchState.ts';
import { choiceGrid } from '../../features/bench/card/choiceGrid.ts';
import { PxSlider } from '../../features/bench/card/PxSlider.tsx';

const LINES: readonly { value: Overlays['lines']; label: string }[] = [
  { value: 'none', label: 'None' },
  { value: 'thirds', label: 'Thirds' },
  { value: 'golden', label: 'Golden' },
  { value: 'diagonals', label: 'Diagonals' },
  { value: 'centre', label: 'Centre' },
];

/** What helps to compose: lines over the frame and the margin that a print may lose. */
export function ComposePart() {
  const dispatch = useAppDispatch();
  const { lines, safeShare, gaze } = useAppSelector((state) => state.bench.overlays);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <ToggleButtonGroup
        exclusive
        value={lines}
        aria-label="Lines over the frame"
        sx={choiceGrid(3)}
        onChange={(_, next: Overlays['lines'] | null) => next && dispatch(benchActions.overlayChosen({ lines: next }))}
      >
        {LINES.map(({ value, label }) => (
          <ToggleButton key={value} value={value}>
            {label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <FormControlLabel
        control={
          <Switch
            size="small"
            checked={gaze}
            onChange={(_, on) => dispatch(benchActions.overlayChosen({ gaze: on }))}
          />
        }
        label="Where the eye goes"
        slotProps={{ typography: { variant: 'body2' } }}
      />
      {gaze && (
        <Typography variant="caption" color="text.secondary">
          An estimate from what stands out: 1 is looked at first. With a take in sight it is that of the new frame.
        </Typography>
      )}
      <PxSlider
        label="Safe margin"
        value={Math.round(safeShare * 100)}
        min={0}
        max={15}
        unit="%"
        onChange={(percent) => dispatch(benchActions.overlayChosen({ safeShare: percent / 100 }))}
      />
    </Box>
  );
}
