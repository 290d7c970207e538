import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import { useEffect } from 'react';
import type { Draft } from '../../../../storage/projectSchema.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts } from '../benchContext.ts';
import { benchActions } from '../benchSlice.ts';
import { isPlacing } from '../draft.ts';
import { DonorsSection } from './DonorsSection.tsx';
import { PxSlider } from './PxSlider.tsx';
import { PlanesSection } from './PlanesSection.tsx';
import { SampleRow } from './SampleRow.tsx';

const CLOSENESS_WORDS = ['Loosest', 'Looser', 'Even', 'Closer', 'Closest'];
const LIGHT_WORDS = ['Its own', 'Mostly its own', 'Halfway', 'Mostly the place’s', 'The place’s'];

/** How the place is rebuilt: from where, along which planes, how closely, in whose light. */
export function RebuildPart() {
  const dispatch = useAppDispatch();
  const { desk } = useBenchParts();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const isWorking = useAppSelector((state) => state.bench.work.stage !== '');
  const placing = isPlacing(draft.what);
  const isCopied = draft.what === 'lengthen';
  const settle = (): void => void dispatch(benchActions.gestureEnded());
  useEffect(() => {
    if (!isWorking && draft.chosen && !isCopied) void desk.makeSamples();
  }, [desk, isWorking, draft, isCopied]);
  // What is lengthened repeats itself: all that matters is the perspective in which it does.
  if (isCopied) return <PlanesSection />;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}>
      <DonorsSection />
      <PlanesSection />
      <SampleRow
        setting="closeness"
        label="Closeness"
        hint={
          placing
            ? 'How much of the ground around it comes along'
            : 'How large the pieces are that are carried over whole'
        }
        words={CLOSENESS_WORDS}
        value={draft.closeness}
        onChange={(closeness) => {
          settle();
          dispatch(benchActions.rebuildSet({ closeness }));
        }}
      />
      <SampleRow
        setting="light"
        label="Light"
        hint={placing ? 'Whose light the subject takes' : 'Whose tone the new part takes'}
        words={LIGHT_WORDS}
        value={placing ? draft.placedLight : draft.rebuiltLight}
        onChange={(value) => {
          settle();
          dispatch(benchActions.rebuildSet(placing ? { placedLight: value } : { rebuiltLight: value }));
        }}
      />
      {placing && (
        <FormControlLabel
          control={
            <Switch
              size="small"
              checked={draft.withShadow}
              onChange={(_, withShadow) => {
                settle();
                dispatch(benchActions.rebuildSet({ withShadow }));
              }}
            />
          }
          label="Its shadow comes along, if it is marked"
          slotProps={{ typography: { variant: 'body2' } }}
        />
      )}
      {placing && draft.withShadow && (
        <PxSlider
          label="How dark"
          unit="%"
          value={draft.shadowStrength}
          min={0}
          max={200}
          step={5}
          onChange={(shadowStrength) => dispatch(benchActions.rebuildSet({ shadowStrength }))}
          onSettled={settle}
        />
      )}
    </Box>
  );
}

/** The part in one line. */
export function rebuildLine(draft: Draft): string {
  const { closeness, planes } = draft;
  if (draft.what === 'lengthen') return planes ? 'Along planes set by hand' : 'In the perspective it shows';
  const light = isPlacing(draft.what) ? draft.placedLight : draft.rebuiltLight;
  return `${CLOSENESS_WORDS[Math.round(closeness / 25)]}, light: ${LIGHT_WORDS[Math.round(light / 25)]!.toLowerCase()}`;
}
