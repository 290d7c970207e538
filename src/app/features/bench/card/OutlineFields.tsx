import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Mark } from '../../../../operations/marks/markSchema.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { PxSlider } from './PxSlider.tsx';

/** The mark's outline as a whole: grown at once at hand, the rest where it is asked for or set. */
export function OutlineFields() {
  const dispatch = useAppDispatch();
  const mark = useAppSelector((state) => state.bench.project!.draft.mark);
  const [open, setOpen] = useState(false);
  const isSet = mark.smoothPx > 0 || mark.featherPx > 0 || Boolean(mark.bandPx);
  const fields = (name: 'growPx' | 'smoothPx' | 'featherPx' | 'bandPx', label: string, min: number) => (
    <PxSlider
      label={label}
      value={mark[name] ?? 0}
      min={min}
      max={60}
      onChange={(value) => dispatch(benchActions.markAdjusted({ [name]: value } as Partial<Mark>))}
      onSettled={() => dispatch(benchActions.gestureEnded())}
    />
  );
  return (
    <Box>
      {fields('growPx', 'Grow', -60)}
      {(open || isSet) && (
        <>
          {fields('smoothPx', 'Smooth', 0)}
          {fields('featherPx', 'Feather', 0)}
          {fields('bandPx', 'Band', 0)}
        </>
      )}
      {!open && !isSet && (
        <Button size="small" onClick={() => setOpen(true)}>
          Smooth, feather, band
        </Button>
      )}
    </Box>
  );
}
