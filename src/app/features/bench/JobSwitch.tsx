import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { useDeskView } from './benchContext.ts';
import { benchActions } from './benchSlice.ts';
import { jobOf, type Job } from './draft.ts';

const JOBS: readonly { job: Job; label: string }[] = [
  { job: 'subjects', label: 'Subjects' },
  { job: 'frame', label: 'Frame' },
];

/** The jobs on the Bench, in words. What is under way in the one is kept while the other is done. */
export function JobSwitch() {
  const dispatch = useAppDispatch();
  const { photo } = useDeskView().source;
  const job = useAppSelector((state) => jobOf(state.bench.project!.draft));
  return (
    <Box component="nav" aria-label="Jobs" sx={{ p: 1.5, pb: 0 }}>
      <ToggleButtonGroup
        exclusive
        fullWidth
        orientation="vertical"
        value={job}
        aria-label="Job"
        onChange={(_, next: Job | null) => next && dispatch(benchActions.jobChosen({ job: next, photo }))}
      >
        {JOBS.map((each) => (
          <ToggleButton key={each.job} value={each.job} sx={{ justifyContent: 'flex-start', px: 1.5 }}>
            {each.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}
