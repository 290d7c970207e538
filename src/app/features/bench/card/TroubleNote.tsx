import Alert from '@mui/material/Alert';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../../../state/benchSlice.ts';

/** What went wrong last, until it has been read. */
export function TroubleNote() {
  const dispatch = useAppDispatch();
  const trouble = useAppSelector((state) => state.bench.trouble);
  if (!trouble) return null;
  return (
    <Alert
      severity="error"
      variant="outlined"
      onClose={() => dispatch(benchActions.troubleTold(''))}
      sx={{ m: 1.5, color: 'text.primary' }}
    >
      {trouble}
    </Alert>
  );
}
