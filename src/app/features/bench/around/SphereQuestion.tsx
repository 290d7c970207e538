import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useNavigate } from 'react-router';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../../../state/benchSlice.ts';

/** What could not be decided without the user: whether a photo twice as wide as high is a sphere. */
export function SphereQuestion() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const id = useAppSelector((state) => state.bench.project!.id);
  const source = useAppSelector((state) => state.bench.project!.source);
  if (source.sphereDoubt) {
    return (
      <Alert
        severity="warning"
        variant="outlined"
        onClose={() => dispatch(benchActions.sphereAnswered(false))}
        sx={{ m: 1.5, color: 'text.primary' }}
      >
        {source.sphereDoubt}
      </Alert>
    );
  }
  if (!source.asksSphere) return null;
  return (
    <Alert severity="info" variant="outlined" icon={false} sx={{ m: 1.5, color: 'text.primary' }}>
      This photo is exactly twice as wide as high. Is it a 360-degree picture?
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <Button
          variant="contained"
          color="primary"
          onClick={() => {
            dispatch(benchActions.sphereAnswered(true));
            void navigate(`/p/${id}/around`);
          }}
        >
          Yes, look around
        </Button>
        <Button onClick={() => dispatch(benchActions.sphereAnswered(false))}>No, it is flat</Button>
      </Box>
    </Alert>
  );
}
