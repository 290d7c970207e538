import Alert from '@mui/material/Alert';
import { benchActions } from '../../../state/benchSlice.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';

/** What should be known about a change just made, until it has been read. */
export function Notice() {
  const dispatch = useAppDispatch();
  const notice = useAppSelector((state) => state.bench.notice);
  if (!notice) return null;
  return (
    <Alert
      severity="warning"
      variant="outlined"
      onClose={() => dispatch(benchActions.noticeRead())}
      sx={{ m: 1.5, color: 'text.primary' }}
    >
      {notice}
    </Alert>
  );
}
