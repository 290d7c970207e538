import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import { PxSlider } from '../../features/bench/card/PxSlider.tsx';
import { RebuildPart, rebuildWords } from '../../features/bench/card/RebuildPart.tsx';
import type { Draft } from '../../../operations/draft.ts';
import { placingOf, usePlacing } from './usePlacing.ts';

/** How a subject's old place is rebuilt, whose light it takes, and what of its shadow comes along. */
export function RebuildPlaced() {
  const { own, set, slide, settle } = usePlacing();
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}>
      <RebuildPart
        closenessHint="How much of the ground around it comes along"
        light={{
          hint: 'Whose light the subject takes',
          value: own.light,
          onChange: (light) => set({ light }),
        }}
      />
      <FormControlLabel
        control={<Switch size="small" checked={own.withShadow} onChange={(_, withShadow) => set({ withShadow })} />}
        label="Its shadow comes along, if it is marked"
        slotProps={{ typography: { variant: 'body2' } }}
      />
      {own.withShadow && (
        <PxSlider
          label="How dark"
          unit="%"
          value={own.shadowStrength}
          min={0}
          max={200}
          step={5}
          onChange={(shadowStrength) => slide({ shadowStrength })}
          onSettled={settle}
        />
      )}
    </Box>
  );
}

export const rebuiltPlacedLine = (draft: Draft): string => rebuildWords(draft.closeness, placingOf(draft).light);
