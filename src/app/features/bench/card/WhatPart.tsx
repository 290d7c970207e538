import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { operationOf } from '../../../../operations/catalogue.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts } from '../benchContext.ts';
import { benchActions } from '../benchSlice.ts';
import { isPlacing, OFFERED, type What } from '../draft.ts';
import { choiceGrid } from './choiceGrid.ts';
import { WhatDrawing } from './WhatDrawing.tsx';

const HINTS: Partial<Record<What, string>> = {
  lengthen: 'Mark the end of the thing with a piece of what should be repeated behind it, then drag it further.',
  borrow:
    'Drag from the mark to the place it should be remade from; it shows there at once. Takes fit it in so that lines meet.',
  refine: 'Paint over what is not good yet: only that is made anew.',
  strokeClear: 'A stroke that was cleared when it was released.',
};

/** What happens to the marked thing, and, where it is placed, how it lies there. */
export function WhatPart() {
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <ToggleButtonGroup
        exclusive
        value={draft.what ?? null}
        aria-label="What happens to it"
        sx={choiceGrid(5)}
        onChange={(_, next: What | null) => next && dispatch(benchActions.whatChosen(next))}
      >
        {OFFERED.map((what) => (
          <ToggleButton
            key={what}
            value={what}
            sx={{ flexDirection: 'column', gap: 0.25, py: 0.5, px: 0, fontSize: 12 }}
          >
            <WhatDrawing what={what} />
            {operationOf(what).title}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {isPlacing(draft.what) && <PlacementFields />}
      {isPlacing(draft.what) && <GroundLine />}
      {draft.what === 'duplicate' && <ReadsLine />}
      {HINTS[draft.what!] && (
        <Typography variant="body2" color="text.secondary">
          {HINTS[draft.what!]}
        </Typography>
      )}
    </Box>
  );
}

/** Sizes and shadows that follow the ground by the picture's horizon. */
function GroundLine() {
  const { desk } = useBenchParts();
  const dispatch = useAppDispatch();
  const horizonPx = useAppSelector((state) => state.bench.project!.draft.horizonPx);
  const change = (on: boolean): void => {
    if (on) void desk.followGround();
    else dispatch(benchActions.horizonSet(undefined));
  };
  return (
    <FormControlLabel
      control={<Switch size="small" checked={horizonPx !== undefined} onChange={(_, on) => change(on)} />}
      label="Size and shadow follow the ground"
      title="Nearer to the horizon things get smaller, and shadows keep to the light; drag the horizon where it is wrong"
      slotProps={{ typography: { variant: 'body2' } }}
    />
  );
}

/** Out of which state of the picture a second one is taken. */
function ReadsLine() {
  const dispatch = useAppDispatch();
  const reads = useAppSelector((state) => state.bench.project!.draft.reads ?? 'present');
  const steps = useAppSelector((state) => state.bench.project!.steps);
  const editing = useAppSelector((state) => state.bench.project!.draft.editing);
  const open = steps.findIndex(({ id }) => id === editing);
  const before = open < 0 ? steps : steps.slice(0, open);
  // The last of them left the picture as it stands.
  const earlier = before.filter(({ enabled }) => enabled).slice(0, -1);
  const value = typeof reads === 'string' ? reads : reads.after;
  const isThere = typeof reads === 'string' || earlier.some(({ id }) => id === reads.after);
  return (
    <TextField
      select
      size="small"
      label="Taken out of"
      helperText="What was cleared or changed since can still be taken out of an earlier picture."
      value={isThere ? value : 'present'}
      onChange={({ target }) => {
        const next = target.value;
        dispatch(benchActions.readsChosen(next === 'present' || next === 'original' ? next : { after: next }));
      }}
    >
      <MenuItem value="present">The picture as it stands</MenuItem>
      {earlier.map((step, k) => (
        <MenuItem key={step.id} value={step.id}>
          After step {k + 1}: {step.name ?? operationOf(step.type).summarize(step.params)}
        </MenuItem>
      ))}
      <MenuItem value="original">The original</MenuItem>
    </TextField>
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
