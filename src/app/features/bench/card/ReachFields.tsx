import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import { shallowEqual } from 'react-redux';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts } from '../benchContext.ts';
import { benchActions, selectPhotoState } from '../../../state/benchSlice.ts';
import { PxSlider } from './PxSlider.tsx';

const NEAR = [
  ['white', 'Near-white'],
  ['black', 'Near-black'],
  ['none', 'No data'],
] as const;

/** What counts as the same colour, and colours that need no touch. */
export function ReachFields() {
  const { desk } = useBenchParts();
  const dispatch = useAppDispatch();
  const { reachTolerance, reachConnected, combine } = useAppSelector(selectPhotoState, shallowEqual);
  return (
    <Box>
      <PxSlider
        label="Tolerance"
        value={reachTolerance}
        min={0}
        max={128}
        unit="levels"
        onChange={(tolerance) => dispatch(benchActions.reachSet({ tolerance }))}
      />
      <FormControlLabel
        control={
          <Switch
            size="small"
            checked={reachConnected}
            onChange={(_, connected) => dispatch(benchActions.reachSet({ connected }))}
          />
        }
        label="Connected area only"
        slotProps={{ typography: { variant: 'body2' } }}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', gap: 1 }}>
        {NEAR.map(([target, label]) => (
          <Button key={target} size="small" onClick={() => void desk.markReach(target, combine)}>
            {label}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
