import Box from '@mui/material/Box';
import { useEffect } from 'react';
import type { Draft } from '../../../../operations/draft.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts } from '../benchContext.ts';
import { DonorsSection } from './DonorsSection.tsx';
import { PlanesSection } from './PlanesSection.tsx';
import { RunOnSection } from './RunOnSection.tsx';
import { SampleRow } from './SampleRow.tsx';

const CLOSENESS_WORDS = ['Loosest', 'Looser', 'Even', 'Closer', 'Closest'];
const LIGHT_WORDS = ['Its own', 'Mostly its own', 'Halfway', 'Mostly the place’s', 'The place’s'];

interface RebuildPartProps {
  closenessHint?: string;
  /** Whose light counts, where that is not the rebuilt part's. */
  light?: { hint: string; value: number; onChange: (value: number) => void };
}

/** How the place is rebuilt: from where, along which planes, how closely, in whose light. */
export function RebuildPart({
  closenessHint = 'How large the pieces are that are carried over whole',
  light,
}: RebuildPartProps) {
  const dispatch = useAppDispatch();
  const { desk } = useBenchParts();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const isWorking = useAppSelector((state) => state.bench.work.stage !== '');
  const set = (change: Partial<Pick<Draft, 'closeness' | 'light'>>): void => {
    dispatch(benchActions.gestureEnded());
    dispatch(benchActions.rebuildSet(change));
  };
  useEffect(() => {
    if (!isWorking && draft.chosen) void desk.makeSamples();
  }, [desk, isWorking, draft]);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}>
      <DonorsSection />
      <RunOnSection />
      <PlanesSection />
      <SampleRow
        setting="closeness"
        label="Closeness"
        hint={closenessHint}
        words={CLOSENESS_WORDS}
        value={draft.closeness}
        onChange={(closeness) => set({ closeness })}
      />
      <SampleRow
        setting="light"
        label="Light"
        hint={light?.hint ?? 'Whose tone the new part takes'}
        words={LIGHT_WORDS}
        value={light?.value ?? draft.light}
        onChange={light?.onChange ?? ((value) => set({ light: value }))}
      />
    </Box>
  );
}

/** How it is rebuilt, in one line. */
export const rebuildWords = (closeness: number, light: number): string =>
  `${CLOSENESS_WORDS[Math.round(closeness / 25)]}, light: ${LIGHT_WORDS[Math.round(light / 25)]!.toLowerCase()}`;
