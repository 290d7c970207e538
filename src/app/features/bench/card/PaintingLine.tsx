import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import type { PaintTarget } from '../../../state/benchState.ts';
import { kindOfDraft } from '../../../../operations/draft.ts';

const TARGETS: readonly { target: PaintTarget; label: string; placing?: boolean }[] = [
  { target: 'mark', label: 'The mark' },
  { target: 'protect', label: 'Protected: nothing may change it' },
  { target: 'donors', label: 'Donors: where new pixels come from' },
  { target: 'belongs', label: 'Belongs to the subject', placing: true },
  { target: 'belongsNot', label: 'Not part of the subject', placing: true },
  { target: 'inFront', label: 'Stays in front of the subject', placing: true },
];

/** What the tools draw now: the mark, or one of the things painted beside it. */
export function PaintingLine() {
  const dispatch = useAppDispatch();
  const target = useAppSelector((state) => state.bench.paintTarget);
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const offered = TARGETS.filter((item) => !item.placing || kindOfDraft(draft)?.draft.cutsOut);
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
      <TextField
        select
        fullWidth
        size="small"
        label="Draw as"
        value={offered.some((item) => item.target === target) ? target : 'mark'}
        onChange={(event) => dispatch(benchActions.paintTargetChosen(event.target.value as PaintTarget))}
      >
        {offered.map((item) => (
          <MenuItem key={item.target} value={item.target}>
            {item.label}
          </MenuItem>
        ))}
      </TextField>
      {target !== 'mark' && draft[target] && (
        <Button size="small" onClick={() => dispatch(benchActions.paintingDropped(target))}>
          Drop
        </Button>
      )}
    </Box>
  );
}
