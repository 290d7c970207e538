import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts } from '../benchContext.ts';
import { benchActions } from '../../../state/benchSlice.ts';

/** A mark of several areas: all together, or one after the other, each with takes of its own. */
export function AreasLine() {
  const dispatch = useAppDispatch();
  const { desk } = useBenchParts();
  const waiting = useAppSelector((state) => state.bench.project!.draft.waiting.length);
  const shapes = useAppSelector((state) => state.bench.project!.draft.mark.shapes.length);
  const [isOne, setIsOne] = useState(false);
  if (waiting > 0) {
    return (
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <Typography variant="caption" color="text.secondary" role="status">
          {waiting === 1 ? '1 more area waits' : `${waiting} more areas wait`}
        </Typography>
        <Button size="small" onClick={() => dispatch(benchActions.areasJoined())}>
          All together
        </Button>
      </Box>
    );
  }
  if (shapes < 2) return null;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
      <Typography variant="caption" color="text.secondary" role="status">
        {isOne ? 'The mark is one area' : 'Several areas?'}
      </Typography>
      <Button size="small" onClick={() => void desk.partAreas().then((count) => setIsOne(count < 2))}>
        One by one
      </Button>
    </Box>
  );
}
