import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { SIDES, type Side } from '../../../../operations/reframe/schema.ts';
import { useAppDispatch } from '../../../store/store.ts';
import { benchActions } from '../benchSlice.ts';
import { PxSlider } from '../card/PxSlider.tsx';
import { RebuildPart } from '../card/RebuildPart.tsx';
import type { FrameOutlook } from './useFrameDraft.ts';

/** What happens to the vacant margins: which are rebuilt, how far over the photo's edge, in how many passes, from where. */
export function MarginsPart({ margins, vacant }: FrameOutlook) {
  const dispatch = useAppDispatch();
  const settle = (): void => void dispatch(benchActions.gestureEnded());
  if (vacant.length === 0) {
    return (
      <Typography variant="body2" color="text.secondary">
        The photo fills this frame; nothing has to be rebuilt.
      </Typography>
    );
  }
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <ToggleButtonGroup
        fullWidth
        value={margins.sides.filter((side) => vacant.includes(side))}
        aria-label="Margins to rebuild"
        onChange={(_, sides: Side[]) => {
          settle();
          const others = margins.sides.filter((side) => !vacant.includes(side));
          dispatch(benchActions.marginsSet({ sides: [...sides, ...others] }));
        }}
      >
        {SIDES.filter((side) => vacant.includes(side)).map((side) => (
          <ToggleButton key={side} value={side}>
            {side[0]!.toUpperCase() + side.slice(1)}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography variant="caption" color="text.secondary">
        Chosen margins are rebuilt together; the others stay vacant and can be rebuilt later, each by itself.
      </Typography>
      <PxSlider
        label="Overlap"
        value={margins.rimPx}
        min={0}
        max={120}
        onChange={(rimPx) => dispatch(benchActions.marginsSet({ rimPx }))}
        onSettled={settle}
      />
      <PxSlider
        label="Passes"
        value={margins.passes}
        min={1}
        max={6}
        unit=""
        onChange={(passes) => dispatch(benchActions.marginsSet({ passes }))}
        onSettled={settle}
      />
      <RebuildPart />
    </Box>
  );
}
