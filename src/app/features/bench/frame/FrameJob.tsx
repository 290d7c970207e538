import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';
import { benchActions } from '../benchSlice.ts';
import { FrameCard } from './FrameCard.tsx';
import { StretchCard } from './StretchCard.tsx';
import { useFrameDraft } from './useFrameDraft.ts';

/** The two ways of gaining room: another frame, whose vacancies are rebuilt, or stretching what is there. */
export function FrameJob() {
  const dispatch = useAppDispatch();
  const { photo } = useDeskView().source;
  const { stretch, editing } = useAppSelector((state) => state.bench.project!.draft);
  const outlook = useFrameDraft();
  return (
    <>
      {!editing && (
        <Box sx={{ p: 2, pb: 1 }}>
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={stretch ? 'stretch' : 'reframe'}
            aria-label="How room is gained"
            onChange={(_, way: 'reframe' | 'stretch' | null) =>
              way && dispatch(benchActions.frameWayChosen({ way, photo }))
            }
          >
            <ToggleButton value="reframe">New frame</ToggleButton>
            <ToggleButton value="stretch">Stretch</ToggleButton>
          </ToggleButtonGroup>
        </Box>
      )}
      {outlook && <FrameCard {...outlook} />}
      {stretch && <StretchCard stretch={stretch} />}
    </>
  );
}
