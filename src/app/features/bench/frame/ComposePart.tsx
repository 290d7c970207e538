import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions, type Overlays } from '../benchSlice.ts';
import { choiceGrid } from '../card/choiceGrid.ts';
import { PxSlider } from '../card/PxSlider.tsx';

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
  const { lines, safeShare } = useAppSelector((state) => state.bench.overlays);
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
