import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { OPERATIONS } from '../../../../operations/catalogue.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../benchSlice.ts';
import { isPlacing, type What } from '../draft.ts';
import { WhatDrawing } from './WhatDrawing.tsx';

/** What happens to the marked thing, and, where it is placed, how it lies there. */
export function WhatPart() {
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={draft.what ?? null}
        aria-label="What happens to it"
        onChange={(_, next: What | null) => next && dispatch(benchActions.whatChosen(next))}
      >
        {OPERATIONS.map(({ type, title }) => (
          <ToggleButton key={type} value={type} sx={{ flexDirection: 'column', gap: 0.25, py: 0.75, px: 0.5 }}>
            <WhatDrawing what={type as What} />
            {title}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {isPlacing(draft.what) && <PlacementFields />}
    </Box>
  );
}

function PlacementFields() {
  const dispatch = useAppDispatch();
  const placement = useAppSelector((state) => state.bench.project!.draft.placement);
  const place = (change: Partial<typeof placement>): void => {
    dispatch(benchActions.gestureEnded());
    dispatch(benchActions.placed(change));
  };
  const [exact, setExact] = useState(false);
  const degrees = Math.round((placement.turn * 180) / Math.PI);
  return (
    <>
      <Typography variant="body2" color="text.secondary">
        Drag the marked subject on the photo, or nudge it with the arrow keys (Shift for 20 px).
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

interface NumberFieldProps {
  label: string;
  value: number;
  min: number;
  max: number;
  onChange: (value: number) => void;
}

/** A number that is taken over when the field is left or Enter is pressed; anything unusable puts the old one back. */
function NumberField({ label, value, min, max, onChange }: NumberFieldProps) {
  const [text, setText] = useState(String(value));
  useEffect(() => setText(String(value)), [value]);
  const take = (): void => {
    const next = Number(text.replace(',', '.'));
    if (text.trim() === '' || !Number.isFinite(next)) setText(String(value));
    else if (next !== value) onChange(Math.max(min, Math.min(max, next)));
  };
  return (
    <TextField
      size="small"
      label={label}
      value={text}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => event.key === 'Enter' && take()}
    />
  );
}
