import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';
import { benchActions } from '../benchSlice.ts';
import { FrameCard } from './FrameCard.tsx';
import type { FrameWay } from '../frameReducers.ts';
import { TextCard } from './TextCard.tsx';
import { StretchCard } from './StretchCard.tsx';
import { useFrameDraft } from './useFrameDraft.ts';

/** Another frame, whose vacancies are rebuilt; stretching what is there; text on what room there is. */
export function FrameJob() {
  const dispatch = useAppDispatch();
  const { photo } = useDeskView().source;
  const { stretch, text, editing } = useAppSelector((state) => state.bench.project!.draft);
  const outlook = useFrameDraft();
  return (
    <>
      {!editing && (
        <Box sx={{ p: 2, pb: 1 }}>
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={text ? 'text' : stretch ? 'stretch' : 'reframe'}
            aria-label="Way"
            onChange={(_, way: FrameWay | null) => way && dispatch(benchActions.frameWayChosen({ way, photo }))}
          >
            <ToggleButton value="reframe">New frame</ToggleButton>
            <ToggleButton value="stretch">Stretch</ToggleButton>
            <ToggleButton value="text">Text</ToggleButton>
          </ToggleButtonGroup>
        </Box>
      )}
      {outlook && <FrameCard {...outlook} />}
      {stretch && <StretchCard stretch={stretch} />}
      {text && <TextCard text={text} />}
    </>
  );
}
