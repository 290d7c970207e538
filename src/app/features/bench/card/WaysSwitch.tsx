import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { jobOf, offeredIn } from '../../../../operations/draft.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';

/** The ways of a job that has several; none while a step is open. */
export function WaysSwitch() {
  const dispatch = useAppDispatch();
  const { kinds } = useBenchParts();
  const { photo } = useDeskView().source;
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const ways = offeredIn(jobOf(draft)).flatMap(({ type }) => {
    const way = kinds.find((view) => view.type === type)?.way;
    return way ? [{ type, way }] : [];
  });
  if (ways.length === 0 || draft.editing) return null;
  return (
    <Box sx={{ p: 2, pb: 1 }}>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={draft.change?.kind}
        aria-label="Way"
        onChange={(_, type: string | null) => type && dispatch(benchActions.wayChosen({ type, photo }))}
      >
        {ways.map(({ type, way }) => (
          <ToggleButton key={type} value={type}>
            {way}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}
