import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { offeredIn } from '../../../../operations/draft.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts, useDeskView, useKindView } from '../benchContext.ts';
import { choiceGrid } from './choiceGrid.ts';

/** What happens to the marked thing, and, where it is placed, how it lies there. */
export function WhatPart() {
  const dispatch = useAppDispatch();
  const { kinds } = useBenchParts();
  const { photo } = useDeskView().source;
  const chosen = useAppSelector((state) => state.bench.project!.draft.change?.kind);
  const Fields = useKindView()?.Fields;
  const drawingOf = (wanted: string) => kinds.find(({ type }) => type === wanted)?.Drawing;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <ToggleButtonGroup
        exclusive
        value={chosen ?? null}
        aria-label="What happens to it"
        sx={choiceGrid(5)}
        onChange={(_, type: string | null) => type && dispatch(benchActions.kindChosen({ type, photo }))}
      >
        {offeredIn('subjects').map(({ type, title }) => {
          const Drawing = drawingOf(type);
          return (
            <ToggleButton
              key={type}
              value={type}
              sx={{ flexDirection: 'column', gap: 0.25, py: 0.5, px: 0, fontSize: 12 }}
            >
              {Drawing && <Drawing />}
              {title}
            </ToggleButton>
          );
        })}
      </ToggleButtonGroup>
      {Fields && <Fields />}
    </Box>
  );
}
