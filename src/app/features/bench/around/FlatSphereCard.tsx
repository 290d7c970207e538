import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useAppSelector } from '../../../store/store.ts';
import { useBenchParts } from '../benchContext.ts';
import { isMarked } from '../../../../operations/draftBase.ts';

/** From a mark on the flat sphere to the direct view in which it is rebuilt. */
export function FlatSphereCard() {
  const { desk } = useBenchParts();
  const marked = useAppSelector((state) => isMarked(state.bench.project!.draft));
  return (
    <Box
      component="section"
      aria-label="Direct view"
      sx={{ p: 2, display: 'flex', flexDirection: 'column', gap: 1.25 }}
    >
      <Button variant="contained" color="primary" disabled={!marked} onClick={() => void desk.goIntoView()}>
        Go on in a direct view
      </Button>
      <Typography variant="caption" color="text.secondary">
        Rolled out flat, a sphere is stretched toward its poles and cut at its sides. Fingo turns to what you mark, so
        that it is rebuilt from what is really around it. A mark may run past a side: it goes on at the other.
      </Typography>
    </Box>
  );
}
