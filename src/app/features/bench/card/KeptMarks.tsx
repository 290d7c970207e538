import Chip from '@mui/material/Chip';
import Stack from '@mui/material/Stack';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../../../state/benchSlice.ts';

/** Marks kept by name: touched, they come back. */
export function KeptMarks() {
  const dispatch = useAppDispatch();
  const kept = useAppSelector((state) => state.bench.project!.keptMarks);
  if (kept.length === 0) return null;
  return (
    <Stack direction="row" sx={{ flexWrap: 'wrap', gap: 0.75, mt: 1 }} aria-label="Kept marks" role="group">
      {kept.map(({ name }) => (
        <Chip
          key={name}
          label={name}
          variant="outlined"
          title="Bring this mark back; Delete forgets it"
          onClick={() => dispatch(benchActions.keptMarkBroughtBack(name))}
          onDelete={() => dispatch(benchActions.keptMarkForgotten(name))}
        />
      ))}
    </Stack>
  );
}
