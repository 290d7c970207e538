import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts } from '../benchContext.ts';
import { benchActions } from '../../../state/benchSlice.ts';

/** What is done to a mark as a whole: what its subject casts added, turned over, kept by name. */
export function MarkActions() {
  const { desk } = useBenchParts();
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const inverted = useAppSelector((state) => state.bench.project!.draft.mark.inverted ?? false);
  const [searching, setSearching] = useState<'shadow' | 'reflection'>();
  const [name, setName] = useState<string>();
  const add = async (what: 'shadow' | 'reflection'): Promise<void> => {
    setSearching(what);
    const found = await (what === 'shadow' ? desk.addShadow() : desk.addReflection());
    setSearching(undefined);
    const where = what === 'shadow' ? 'beside' : 'below';
    if (!found) enqueueSnackbar(`No ${what} was found ${where} the mark; paint it with the brush, if there is one.`);
  };
  const keep = (): void => {
    if (name?.trim()) dispatch(benchActions.markKept(name));
    setName(undefined);
  };
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 0.75, '& > button': { px: 0.5 } }}>
        {(['shadow', 'reflection'] as const).map((what) => (
          <Button key={what} size="small" disabled={searching !== undefined} onClick={() => void add(what)}>
            {searching === what ? 'Looking' : `Add its ${what}`}
          </Button>
        ))}
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
