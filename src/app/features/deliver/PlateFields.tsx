import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import type { PlateRim } from '../../../core/geometry/plate.ts';

export interface PlateChoice {
  on: boolean;
  rim: PlateRim;
  rimPx: number;
}

const RIMS: readonly { rim: PlateRim; label: string }[] = [
  { rim: 'soft', label: 'Soft' },
  { rim: 'hard', label: 'Hard' },
  { rim: 'none', label: 'None' },
];

interface PlateFieldsProps {
  plate: PlateChoice;
  onChange: (plate: PlateChoice) => void;
}

/** Whether only the new margins are delivered, and how far they reach over the photo. */
export function PlateFields({ plate, onChange }: PlateFieldsProps) {
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <FormControlLabel
        control={<Switch checked={plate.on} onChange={(_, on) => onChange({ ...plate, on })} />}
        label="Only the new margins (a plate)"
        slotProps={{ typography: { variant: 'body2' } }}
      />
      {plate.on && (
        <>
          <Typography variant="caption" color="text.secondary">
            The photo’s own place is transparent, for laying over a video or another version of it. PNG keeps that.
          </Typography>
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={plate.rim}
            aria-label="Rim over the photo"
            onChange={(_, rim: PlateRim | null) => rim && onChange({ ...plate, rim })}
          >
            {RIMS.map(({ rim, label }) => (
              <ToggleButton key={rim} value={rim}>
                {label}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
        </>
      )}
    </Box>
  );
}
