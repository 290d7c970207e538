import Box from '@mui/material/Box';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { SIDES, type Side } from '../../../operations/kinds/reframe/schema.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { PxSlider } from '../../features/bench/card/PxSlider.tsx';
import { RebuildPart } from '../../features/bench/card/RebuildPart.tsx';
import { useDeskView } from '../../features/bench/benchContext.ts';
import { useSetting } from '../../features/bench/useChange.ts';
import type { FrameOutlook, Margins } from './useFrameDraft.ts';

/** What happens to the vacant margins: which are rebuilt, how far over the photo's edge, in how many passes, from where. */
export function MarginsPart({ margins, vacant, photo }: FrameOutlook) {
  const { set, slide, settle } = useSetting<Margins>('margins');
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
          const others = margins.sides.filter((side) => !vacant.includes(side));
          set({ sides: [...sides, ...others] });
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
      <EdgeAdvice margins={margins} vacant={vacant} photo={photo} />
      <PxSlider
        label="Overlap"
        value={margins.rimPx}
        min={0}
        max={120}
        onChange={(rimPx) => slide({ rimPx })}
        onSettled={settle}
      />
      <PxSlider
        label="Passes"
        value={margins.passes}
        min={1}
        max={6}
        unit=""
        onChange={(passes) => slide({ passes })}
        onSettled={settle}
      />
      <RebuildPart />
    </Box>
  );
}

/** Things that touch a side that is rebuilt, and what to do about them. */
function EdgeAdvice({ margins, vacant, photo }: Pick<FrameOutlook, 'margins' | 'vacant' | 'photo'>) {
  const dispatch = useAppDispatch();
  const { atEdge } = useDeskView();
  const hasDonors = useAppSelector((state) => state.bench.project!.draft.donors !== undefined);
  const things = (atEdge ?? []).filter(({ side }) => vacant.includes(side) && margins.sides.includes(side));
  if (things.length === 0 || hasDonors) return null;
  const sides = [...new Set(things.map(({ side }) => side))].join(' and ');
  return (
    <Alert
      severity="warning"
      variant="outlined"
      sx={{ color: 'text.primary', '& .MuiAlert-action': { pt: 0 } }}
      action={
        <Button
          size="small"
          onClick={() => dispatch(benchActions.donorsLeftOut({ photo, rects: things.map(({ rect }) => rect) }))}
        >
          Leave it out
        </Button>
      }
    >
      Something touches the {sides} side and may be drawn outward. Clear it first, or leave it out of the donors.
    </Alert>
  );
}
