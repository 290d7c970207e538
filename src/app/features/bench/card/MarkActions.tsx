import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts } from '../benchContext.ts';
import { benchActions } from '../benchSlice.ts';

/** What is done to a mark as a whole: its shadow added, turned over, kept by name. */
export function MarkActions() {
  const { desk } = useBenchParts();
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const inverted = useAppSelector((state) => state.bench.project!.draft.mark.inverted ?? false);
  const [searching, setSearching] = useState(false);
  const [name, setName] = useState<string>();
  const addShadow = async (): Promise<void> => {
    setSearching(true);
    const found = await desk.addShadow();
    setSearching(false);
    if (!found) enqueueSnackbar('No shadow was found beside the mark; paint it with the brush, if there is one.');
  };
  const keep = (): void => {
    if (name?.trim()) dispatch(benchActions.markKept(name));
    setName(undefined);
  };
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1.25fr 1fr 1fr', gap: 0.75, '& > button': { px: 0.5 } }}>
        <Button size="small" disabled={searching} onClick={() => void addShadow()}>
          {searching ? 'Looking' : 'Add its shadow'}
        </Button>
        <Button size="small" onClick={() => dispatch(benchActions.markAdjusted({ inverted: !inverted }))}>
          {inverted ? 'Turn back' : 'Invert'}
        </Button>
        <Button size="small" onClick={() => setName('')}>
          Keep
        </Button>
      </Box>
      {name !== undefined && (
        <TextField
          autoFocus
          size="small"
          label="Keep this mark as"
          value={name}
          onChange={(event) => setName(event.target.value)}
          onBlur={keep}
          onKeyDown={(event) => {
            if (event.key === 'Enter') keep();
            if (event.key === 'Escape') setName(undefined);
          }}
        />
      )}
    </>
  );
}
