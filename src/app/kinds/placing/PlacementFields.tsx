import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { NumberField } from './NumberField.tsx';
import { usePlacing } from './usePlacing.ts';

/** How a subject lies at its new place. */
export function PlacementFields() {
  const { own, set } = usePlacing();
  const { placement } = own;
  const place = (change: Partial<typeof placement>): void => {
    set({ placement: { ...placement, ...change } });
  };
  const [exact, setExact] = useState(false);
  const degrees = Math.round((placement.turn * 180) / Math.PI);
  return (
    <>
      <Typography variant="body2" color="text.secondary">
        Drag the marked subject on the photo, or nudge it with the arrow keys (Shift for 20 px). The hatched slack
        around it is remade.
      </Typography>
      <Button size="small" aria-expanded={exact} onClick={() => setExact(!exact)} sx={{ alignSelf: 'flex-start' }}>
        {exact ? 'Hide size, turn and mirror' : 'Size, turn, mirror'}
      </Button>
      <Box sx={{ display: exact ? 'grid' : 'none', gridTemplateColumns: '1fr 1fr', gap: 1, pt: 0.5 }}>
        <NumberField
          label="Right, px"
          value={placement.dxPx}
          min={-99999}
          max={99999}
          onChange={(dxPx) => place({ dxPx })}
        />
        <NumberField
          label="Down, px"
          value={placement.dyPx}
          min={-99999}
          max={99999}
          onChange={(dyPx) => place({ dyPx })}
        />
        <NumberField
          label="Size, %"
          value={Math.round(placement.scale * 100)}
          min={5}
          max={2000}
          onChange={(percent) => place({ scale: percent / 100 })}
        />
        <NumberField
          label="Turn, degrees"
          value={degrees}
          min={-180}
          max={180}
          onChange={(value) => place({ turn: (value * Math.PI) / 180 })}
        />
        <TextField
          select
          size="small"
          label="Mirror"
          value={placement.mirror}
          onChange={(event) => place({ mirror: event.target.value as typeof placement.mirror })}
          sx={{ gridColumn: '1 / 3' }}
        >
          <MenuItem value="none">As it is</MenuItem>
          <MenuItem value="horizontal">Left and right swapped</MenuItem>
          <MenuItem value="vertical">Upside down</MenuItem>
        </TextField>
      </Box>
    </>
  );
}
